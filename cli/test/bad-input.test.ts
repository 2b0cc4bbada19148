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
      'p.csv is too large to be an answer to this question. It has 60.0 MB; expected: at most 2.8 MB.',
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
