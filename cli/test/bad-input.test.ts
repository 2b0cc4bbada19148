import { describe, expect, it } from '@jest/globals';
import { COLONIES, Folder } from './sieve.js';

const refused = (
  args: readonly string[],
  files: Record<string, string | Uint8Array> = {},
  input?: string,
) => {
  const folder = new Folder();
  for (const [name, content] of Object.entries(files)) folder.write(name, content);
  const before = folder.names;
  const { code, out, said } = folder.run(args, input);
  expect([code, out]).toEqual([2, '']);
  expect(folder.names).toEqual(before);
  expect(said).not.toMatch(/\n\s+at |node:internal|undefined/);
  return said.trim();
};
const split = ['split', 'x.csv', '--parts', 'a=0.5,b=0.5', '--seed', '1', '--out', 'parts'];
const score = ['score', '--truth', 't.csv', '--pred', 'p.csv', '--id', 'id', '--target', 'y'];
const TRUTH = 'id,y\n1,no\n2,yes\n3,no\n';

describe('bad input is one sentence with the place; nothing is printed, nothing written, and the code is 2', () => {
  it.each<[string, string | Uint8Array, string]>([
    ['an empty file', '', 'x.csv is empty.'],
    ['a header alone', 'a,b\n', 'x.csv has a header and no rows under it.'],
    ['a short line', 'a,b\n1,2\n3\n', 'x.csv, line 3: 1 field, but the header has 2.'],
    [
      'an open quotation mark',
      'a,b\n1,"2\n3,4\n',
      'x.csv, line 2: a quotation mark in field 2 is opened and never closed.',
    ],
    ['two columns of one name', 'a,a\n1,2\n', 'x.csv, line 1: columns 1 and 2 are both called “a”.'],
    ['a zero byte', Uint8Array.of(97, 10, 0, 10), 'x.csv holds a zero byte on line 2'],
    [
      'a workbook called CSV',
      Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0),
      'x.csv is a spreadsheet or a zip archive',
    ],
    ['a web page', '<!doctype html><p>', 'x.csv is a web page, not a table.'],
    ['too few rows', 'a\n1\n', '1 row cannot make 2 parts.'],
  ])('%s', (_, content, message) => {
    expect(refused(split, { 'x.csv': content })).toContain(message);
  });

  it.each<[string, readonly string[], string]>([
    [
      'a file that is not there',
      ['profile', 'nowhere.csv'],
      'nowhere.csv cannot be read: there is no such file or folder.',
    ],
    ['a folder', ['profile', '.'], '. cannot be read: it is a folder.'],
    ['an unknown ending', ['profile', 'x.docx'], 'x.docx: the end of its name is not known'],
    ['an unknown command', ['divide'], "unknown command 'divide'"],
    [
      'a lacking option',
      ['split', 'x.csv', '--parts', 'a=0.5,b=0.5'],
      "required option '--seed <n>' not specified",
    ],
    ['a seed that is no number', [...split.slice(0, 4), '--seed', 'x'], '--seed is a number, not “x”.'],
    [
      'shares that are no shares',
      ['split', 'x.csv', '--parts', 'a=0.5,b=0.6', '--seed', '1'],
      'The shares make 1.1, not 1.',
    ],
    ['an unknown column', [...split, '--stratify', 'z'], 'There is no column “z”.'],
    ['an unknown method', [...split, '--method', 'magic'], 'There is no method “magic”; there are random,'],
    [
      'more folds than rows',
      ['folds', 'x.csv', '--k', '31', '--seed', '1'],
      '30 rows cannot make 31 folds: each fold needs a row.',
    ],
    [
      'fewer groups than folds',
      ['folds', 'x.csv', '--k', '7', '--group', 'apiary', '--seed', '1'],
      '6 groups of apiary cannot make 7 folds',
    ],
    [
      'a cut-off that is no time',
      [...split, '--time', 'day', '--cut-off', 'May'],
      '“May” is no number to cut day at.',
    ],
    ['a format that is not written', [...split, '--format', 'xlsx'], 'Parts cannot be written as “xlsx”'],
  ])('%s', (_, args, message) => {
    expect(refused(args, { 'x.csv': COLONIES, 'x.docx': 'x' })).toContain(message);
  });

  it.each<[string, string, string, readonly string[], string]>([
    [
      'a missing row',
      TRUTH,
      'id,prediction\n1,no\n2,yes\n',
      [],
      'p.csv: Each id must appear exactly once: 1 row missing. id 3 is missing.',
    ],
    [
      'a row that occurs twice',
      TRUTH,
      'id,prediction\n1,no\n2,yes\n3,no\n3,no\n',
      [],
      'id 3 is on lines 4 and 5.',
    ],
    [
      'an unknown label',
      TRUTH,
      'id,prediction\n1,no\n2,maybe\n3,no\n',
      [],
      'line 3, field 2: “maybe” for 2 is no label; the nearest is',
    ],
    [
      'a decimal comma',
      TRUTH,
      'id;probability\n1;0,5\n2;0.5\n3;0.5\n',
      [],
      'line 2, field 2: “0,5” for 1 has a decimal comma.',
    ],
    [
      'an infinite number',
      'id,y\n1,2.5\n2,3.5\n3,4\n',
      'id,prediction\n1,inf\n2,1\n3,1\n',
      [],
      '“inf” for 1 is infinite.',
    ],
    [
      'no column of predictions',
      TRUTH,
      'id,guess\n1,no\n2,no\n3,no\n',
      [],
      'p.csv: Line 1: there is no column “prediction”; the nearest is “',
    ],
    [
      'a truth with a gap',
      'id,y\n1,no\n2,\n3,yes\n',
      'id,prediction\n1,no\n2,no\n3,no\n',
      [],
      't.csv, row 2: y is missing, so it cannot be scored.',
    ],
    [
      'a truth with a row twice',
      'id,y\n1,no\n1,yes\n',
      'id,prediction\n1,no\n',
      [],
      't.csv, row 2: id 1 is in an earlier row too.',
    ],
    [
      'a weight below 0',
      'id,y,w\n1,no,1\n2,yes,-1\n',
      'id,prediction\n1,no\n2,no\n',
      ['--weight', 'w'],
      't.csv, row 2: the weight w is -1, below 0.',
    ],
    [
      'weights that are all 0',
      'id,y,w\n1,no,0\n2,yes,0\n',
      'id,prediction\n1,no\n2,no\n',
      ['--weight', 'w'],
      't.csv: every weight in w is 0.',
    ],
    [
      'a positive class that is none',
      TRUTH,
      'id,prediction\n1,no\n2,no\n3,no\n',
      ['--positive', 'maybe'],
      '--positive is one of “no” and “yes”.',
    ],
    [
      'one class only as a binary task',
      'id,y\n1,no\n2,no\n',
      'id,prediction\n1,no\n2,no\n',
      ['--task', 'binary'],
      'A binary task has two classes; the truth has 1.',
    ],
    [
      'texts as a regression',
      TRUTH,
      'id,prediction\n1,1\n2,1\n3,1\n',
      ['--task', 'regression'],
      'y is not a column of numbers',
    ],
  ])('predictions: %s', (_, truth, predictions, more, message) => {
    expect(refused([...score, ...more], { 't.csv': truth, 'p.csv': predictions })).toContain(message);
  });

  it('predictions of 60 MB for 5,000 rows', () => {
    const rows = Array.from({ length: 5000 }, (_, i) => i);
    const truth = `id,y\n${rows.map((i) => `${i},${i % 2}`).join('\n')}\n`;
    const message = refused(score, { 't.csv': truth, 'p.csv': new Uint8Array(60 * 2 ** 20).fill(49) });
    expect(message).toBe(
      'p.csv is too large to be an answer to this question. It has 60.0 MB; expected is at most 2.8 MB.',
    );
  });
});

describe('unusual input that is read', () => {
  const profiled = (content: string) => {
    const folder = new Folder();
    folder.write('x.csv', content);
    return folder.json(['profile', 'x.csv'])['columns'] as Record<string, unknown>[];
  };

  it('decimal commas are recognised and said; those that could part thousands are not read as numbers', () => {
    expect(profiled('a;b;c\n1,5;1,234;1,234.5\n2,25;2,345;2,345.5\n')).toMatchObject([
      { type: 'number', mean: 1.875, note: 'decimal commas were read as points, the first “1,5” on line 2' },
      {
        type: 'category',
        note: 'kept as text: “1,234” on line 2 may have a decimal comma or commas between thousands',
      },
      {
        type: 'category',
        note: 'kept as text: 2 cells with commas between thousands, the first “1,234.5” on line 2',
      },
    ]);
  });

  it('lines that end in two ways, and dates written in two ways', () => {
    expect(profiled('d,x\r\n2024-05-01,1\n01.06.2024,2\r\n2024-07-01,3\n')).toMatchObject([
      {
        type: 'category',
        note: 'kept as text: dates are written in more ways than one, “2024-05-01” on line 2 and “01.06.2024” on line 3',
      },
      { type: 'number', max: 3 },
    ]);
  });

  it('columns called like properties of objects, numbers beyond 2^53, a constant, a column without values', () => {
    expect(
      profiled('__proto__,constructor,big,same,none\na,1,9007199254740993,5,\nb,2,9007199254740995,5,NA\n'),
    ).toMatchObject([
      { name: '__proto__', type: 'category' },
      { name: 'constructor', type: 'number' },
      { name: 'big', type: 'category', note: 'kept as text: 2 cells would lose digits as a number' },
      { name: 'same', distinct: 1, skewness: null },
      { name: 'none', missing: 2, mean: null },
    ]);
  });

  it('ten thousand classes', () => {
    const rows = Array.from({ length: 20_000 }, (_, i) => `${i},c${i % 10_000}`);
    const folder = new Folder();
    folder.write('x.csv', `id,c\n${rows.join('\n')}\n`);
    const folds = folder.json(['folds', 'x.csv', '--k', '2', '--stratify', 'c', '--seed', '1'])['folds'];
    expect(folds).toMatchObject([{ rows: 10_000 }, { rows: 10_000 }]);
  });

  it('an infinite value is said to be one', () => {
    const values = [...Array.from({ length: 9 }, (_, i) => String(i)), 'inf'];
    expect(profiled(`x\n${values.join('\n')}\n`)[0]?.['note']).toBe(
      '1 of 10 cells are not numbers, the first “inf” on line 11, which is infinite',
    );
  });
});

describe('a command that is interrupted', () => {
  it('says so, ends with 130 and leaves nothing behind', async () => {
    const folder = new Folder();
    const line = Array.from({ length: 20 }, (_, i) => `${i}.5`).join(',');
    folder.write(
      'x.csv',
      `${Array.from({ length: 20 }, (_, i) => `c${i}`).join(',')}\n${`${line}\n`.repeat(1_500_000)}`,
    );
    const { code, out, said } = await folder.interrupt(
      ['split', 'x.csv', '--parts', 'a=0.5,b=0.5', '--seed', '1', '--out', 'parts'],
      'SIGINT',
    );
    expect(said).toContain('Stopped; nothing was written.');
    expect([code, out]).toEqual([130, '']);
    expect(folder.names).toEqual(['x.csv']);
  });
});
