import { describe, expect, it } from '@jest/globals';
import { strToU8, zipSync } from 'fflate';
import { asked, begun, failing, fileOf, material, SUBJECT } from '../../../../test/asked.js';
import { markAnswer } from '../../disclosure/result.js';
import { PUBLIC_SECRET } from '../../../foundation/random/secret.js';
import { questionKindOf } from '../registry.js';
import { all, text } from './files-of-tests.js';

const partsFile = (part: (row: number) => string) =>
  `colony,part\n${all.map((row) => `c${row},${part(row)}`).join('\n')}\n`;

/** Whole apiaries, four of five for training: 72 of 90 rows; rows 2 and 7, which are alike, both there. */
const byApiary = (row: number) => (Math.floor(row / 5) % 5 === 4 ? 'test' : 'training');

const wide = { within: 5, sharesWithin: 50 };

describe('a split', () => {
  const whole = asked(begun('split', { values: { ...wide, group: 'apiary', stratify: 'survived' } }));

  it('that keeps what is asked earns all marks', () => {
    expect(whole.hand(text(partsFile(byApiary)))).toMatchObject({ holds: true, marks: 4, outOf: 4 });
  });

  it('without a column of time is judged by what is asked, and by nothing else', () => {
    expect(whole.hand(text(partsFile(byApiary))).judged.map(({ check }) => check.id)).toEqual([
      'sizes',
      'strata',
      'groups',
    ]);
  });

  it('says of an empty cell that it holds nothing, and of another what it holds', () => {
    const file = partsFile((row) => (row === 3 ? '' : row === 5 ? 'north' : byApiary(row)));
    const said = JSON.stringify(whole.hand(text(file)).checks);
    expect(said).toMatch(/line 5: [^"“]* has no part/);
    expect(said).toMatch(/line 7: “north” for /);
  });

  it('that is larger than any answer can be is not read', () => {
    const large = `row,part\n${'0,training\n'.repeat(200_000)}`;
    expect(whole.hand(text(large)).checks[0]).toMatchObject({ outcome: 'fails', id: 'size' });
  });

  it('that splits every apiary earns nothing, and it is shown which; one that splits a few loses that check', () => {
    const cut = whole.hand(text(partsFile((row) => (row % 5 === 0 ? 'test' : 'training'))));
    expect(failing(cut)).toEqual(['work', 'groups']);
    expect(cut.marks).toBe(0);
    expect(cut.judged[3]?.check).toMatchObject({
      measured: '18 of 18 split across parts',
      examples: expect.arrayContaining([
        expect.objectContaining({ text: expect.stringContaining('apiary a') }),
      ]),
    });
    const few = whole.hand(text(partsFile((row) => (row === 3 || row === 11 ? 'test' : byApiary(row)))));
    expect(failing(few)).toEqual(['groups']);
    expect(few.marks).toBeCloseTo(8 / 3, 2);
  });

  it.each([
    ['sizes', (row: number) => (row < 45 ? 'training' : 'test')],
    ['strata', (row: number) => ((row * 7) % 10 < 6 || row % 10 === 1 ? 'training' : 'test')],
  ])('of other %s than asked for is found', (id, part) => {
    const strict = asked(
      begun('split', { values: { within: 3, sharesWithin: 3, group: '', stratify: 'survived' } }),
    );
    expect(failing(strict.hand(text(partsFile(part))))).toContain(id);
  });

  it('in time has every later part after the earlier ones; rows of one time may be in both', () => {
    const inTime = asked(begun('split', { values: { within: 1, group: '', stratify: '', time: 'day' } }));
    expect(failing(inTime.hand(text(partsFile((row) => (row < 72 ? 'training' : 'test')))))).toEqual([]);
    expect(failing(inTime.hand(text(partsFile((row) => (row >= 18 ? 'training' : 'test')))))).toEqual([
      'work',
      'time',
    ]);
    // Rows of one time may be cut, as where sorted rows are cut at a share.
    const byFrames = asked(
      begun('split', { values: { within: 5, group: '', stratify: '', time: 'frames' } }),
    );
    const cut = (row: number) => (row % 4 === 3 && row > 8 ? 'test' : 'training');
    expect(failing(byFrames.hand(text(partsFile(cut))))).toEqual([]);
    expect(failing(byFrames.hand(text(partsFile((row) => (row === 0 ? 'test' : cut(row))))))).toEqual([
      'time',
    ]);
  });

  it('with rows of the same features on both sides is found where that is asked', () => {
    const apart = partsFile((row) => (row === 7 || (row >= 40 && row < 57) ? 'test' : 'training'));
    const values = { within: 1, group: '', stratify: '' };
    expect(
      failing(asked(begun('split', { values: { ...values, twins: 'together' } })).hand(text(apart))),
    ).toEqual([]);
    const features = { ...material().roles, withheld: ['day', 'apiary'] };
    const strict = asked(
      begun('split', { values: { ...values, twins: 'together' } }),
      material({ roles: features }),
    );
    expect(failing(strict.hand(text(apart)))).toEqual(['twins']);
  });

  it('may come as a table for each part, zipped, or as a mask of two parts', () => {
    const table = (part: string) =>
      strToU8(
        `weight,colony\n${all
          .filter((row) => byApiary(row) === part)
          .map((row) => `1,c${row}`)
          .join('\n')}\n`,
      );
    const zip = zipSync({ 'training.csv': table('training'), 'tables/test.csv': table('test') });
    expect(whole.hand({ file: fileOf(zip, 'split.zip') })).toMatchObject({ holds: true, marks: 4 });
    // A mask follows the lines of the training file.
    const inPack = ('identifiers' in whole.rules ? whole.rules.identifiers : []).map((id) =>
      Number(id.slice(1)),
    );
    const mask = (yes: string, no: string, header = '') =>
      `${header}${inPack.map((row) => (byApiary(row) === 'training' ? yes : no)).join('\n')}\n`;
    for (const file of [mask('TRUE', 'FALSE'), mask('1', '0', 'is_train\n'), mask('true', 'false')])
      expect(whole.hand(text(file))).toMatchObject({ holds: true, marks: 4 });
    expect(failing(whole.hand(text(mask('1', '0').split('\n').slice(3).join('\n'))))).toEqual(['rows']);
    expect(failing(whole.hand(text(mask('1', 'maybe'))))).toContain('cells');
  });

  it.each([
    ['a row is missing', partsFile(byApiary).replace('c5,training\n', ''), 'rows', 'colony c5 is missing'],
    ['a row occurs twice', `${partsFile(byApiary)}c5,test\n`, 'rows', 'colony c5 is on lines 7 and 92'],
    [
      'a row is held out',
      `${partsFile(byApiary)}c100,test\n`,
      'rows',
      '“c100” is not in the file of training rows',
    ],
    [
      'a part is misspelt',
      partsFile(byApiary).replace('c5,training', 'c5,trainign'),
      'cells',
      'the nearest is “training”',
    ],
    ['a part is blank', partsFile(byApiary).replace('c5,training', 'c5,'), 'cells', 'c5 has no part'],
    [
      'a column has another name',
      partsFile(byApiary).replace('part', 'fold'),
      'header',
      'there is no column “part”',
    ],
    ['nothing is there', '', 'readable', 'answer.csv is empty'],
  ])('is refused, and costs no attempt, where %s', (_, file, id, words) => {
    const result = whole.hand(text(file));
    expect(result).toMatchObject({ holds: false, marks: null, judged: [] });
    const fault = result.checks.find((one) => one.id === id);
    expect(`${fault?.message} ${fault?.examples.map((one) => one.text).join(' ')}`).toContain(words);
  });

  it('zipped with a table of no part, or without one, is refused with its name', () => {
    const table = strToU8('colony\nc1\n');
    const of = (files: Record<string, Uint8Array>) =>
      whole.hand({ file: fileOf(zipSync(files), 'split.zip') }).checks[0]?.message;
    expect(of({ 'training.csv': table, 'test.csv': table, 'more.csv': table })).toContain('more.csv');
    expect(of({ 'training.csv': table })).toContain('has no test.csv');
    expect(of({ 'training.csv': table, 'test.csv': strToU8('id\nc2\n') })).toContain(
      'there is no column “colony”',
    );
  });

  it('zipped and cut off is refused by its name', () => {
    const cut = zipSync({ 'training.csv': strToU8('colony\nc1\n') }).subarray(0, 30);
    expect(whole.hand({ file: fileOf(cut, 'split.zip') }).checks[0]?.message).toMatch(
      /^split\.zip cannot be unpacked: .+\.$/,
    );
  });

  it('marked by a key of an earlier version, which has no bounds, is right and wrong as before', () => {
    const question = begun('split', { values: { ...wide, group: 'apiary', stratify: 'survived' } });
    const kind = questionKindOf('split');
    const { rules, key } = kind.make(question, material());
    const { bounds, ...old } = key as typeof key & { bounds?: unknown };
    expect(bounds).toBeDefined();
    const marks = (file: string) =>
      markAnswer(question, { ...text(file), fields: {} }, rules, old, {
        who: { secret: PUBLIC_SECRET, question: 'q1', id: '' },
        stepped: false,
        before: null,
      }).marks;
    expect(marks(partsFile(byApiary))).toBe(4);
    expect(marks(partsFile((row) => (row % 5 === 0 ? 'test' : 'training')))).toBe(0);
  });

  it('whose parts differ in a class says by how much at worst', () => {
    const one = asked(begun('split', { values: { ...wide, stratify: 'survived', sharesWithin: 1 } }));
    const strata = one.hand(text(partsFile(byApiary))).judged.find(({ check }) => check.id === 'strata');
    expect(strata?.check.measured).toMatch(/^.*\d.*%/);
  });

  it('names line and column of a row that is not asked for', () => {
    const found = whole
      .hand(text(`${partsFile(byApiary)}c100,test\n`))
      .checks.find(({ id }) => id === 'rows');
    expect(found?.examples[0]).toMatchObject({ line: 92, column: 1 });
    const twice = whole.hand(text(`${partsFile(byApiary)}c5,test\n`)).checks.find(({ id }) => id === 'rows');
    expect(twice?.examples[0]).toMatchObject({ line: 92, column: 1 });
  });

  it('says how many rows were found of how many', () => {
    const [header = '', ...lines] = partsFile(byApiary).trim().split('\n');
    const { checks } = whole.hand(text(`${[header, ...lines.slice(10)].join('\n')}\n`));
    expect(checks.find(({ id }) => id === 'rows')?.measured).toBe('80 of 90 found in 80 rows');
  });

  it('zipped so that it unpacks to far more than its rows need is refused unpacked', () => {
    const bomb = zipSync({
      'training.csv': new Uint8Array(40 * 2 ** 20),
      'test.csv': strToU8('colony\nc1\n'),
    });
    expect(bomb.length).toBeLessThan(2 ** 20);
    expect(whole.hand({ file: fileOf(bomb, 'split.zip') }).checks[0]?.message).toContain('which is too much');
  });

  it('is asked for in shares that leave rows for testing, by columns that students have', () => {
    const kind = questionKindOf('split');
    expect(() => kind.check(begun('split', { values: { training: 90, validation: 10 } }), SUBJECT)).toThrow(
      'leave no rows for testing',
    );
    const hidden = { ...SUBJECT, roles: { ...SUBJECT.roles, withheld: ['apiary'] } };
    expect(() => kind.check(begun('split', { values: { group: 'apiary' } }), hidden)).toThrow(
      'There is no column “apiary”',
    );
  });

  it('has an example that passes the file checks', () => {
    expect(whole.hand(text(whole.example ?? '')).holds).toBe(true);
  });
});
