import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { asked, begun, failing, fileOf, GIVEN, material, SUBJECT } from '../../../../test/asked.js';
import { markAnswer } from '../../disclosure/result.js';
import { at, indices } from '../../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../../foundation/random/random.js';
import { PUBLIC_SECRET } from '../../../foundation/random/secret.js';
import { questionKindOf } from '../registry.js';

const all = Array.from(indices(GIVEN));
const partsFile = (part: (row: number) => string) =>
  `colony,part\n${all.map((row) => `c${row},${part(row)}`).join('\n')}\n`;
/** Whole apiaries, four of five for training: 72 of 90 rows; rows 2 and 7, which are alike, both there. */
const byApiary = (row: number) => (Math.floor(row / 5) % 5 === 4 ? 'test' : 'training');
const wide = { within: 5, sharesWithin: 50 };
const text = (file: string) => ({ file: fileOf(file) });

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

describe('folds', () => {
  const values = { k: 5, stratify: '', group: 'apiary', reports: 'nothing' };
  const foldsFile = (fold: (row: number) => string | number) =>
    `colony,fold\n${all.map((row) => `c${row},${fold(row)}`).join('\n')}\n`;
  const byApiaryFold = (row: number) => (Math.floor(row / 5) % 5) + 1;

  it('of whole apiaries and equal sizes earn all marks', () => {
    expect(asked(begun('folds', { values })).hand(text(foldsFile(byApiaryFold)))).toMatchObject({ marks: 4 });
  });

  it.each([
    ['groups', { ...values }, (row: number) => (row % 5) + 1],
    ['sizes', { ...values, group: '' }, (row: number) => (row < 30 ? 1 : (row % 4) + 2)],
    [
      'strata',
      { ...values, group: '', stratify: 'survived' },
      (row: number) =>
        Math.floor([...all].sort((a, b) => ((a * 7) % 10) - ((b * 7) % 10) || a - b).indexOf(row) / 18) + 1,
    ],
  ])('fail by their %s', (id, asks, fold) => {
    expect(failing(asked(begun('folds', { values: asks })).hand(text(foldsFile(fold))))).toContain(id);
  });

  it.each([
    ['from 0', (row: number) => row % 5, 'folds are numbered from 1'],
    ['by text', (row: number) => `fold ${(row % 5) + 1}`, 'is no fold from 1 to 5'],
    ['beyond k', (row: number) => (row % 6) + 1, 'is no fold from 1 to 5'],
    ['by halves', (row: number) => (row % 5) + 0.5, 'is no fold from 1 to 5'],
  ])('numbered %s are refused', (_, fold, words) => {
    const result = asked(begun('folds', { values })).hand(text(foldsFile(fold)));
    expect(result.holds).toBe(false);
    expect(result.checks.flatMap((one) => one.examples.map((example) => example.text)).join()).toContain(
      words,
    );
  });

  it('that are any partition into k equal parts hold, whichever way they were dealt', () => {
    const plain = asked(begun('folds', { values: { ...values, group: '' } }));
    fc.assert(
      fc.property(fc.nat(), (seed) => {
        const order = shuffle(indices(GIVEN), seededRandom(seed));
        const place = new Map(Array.from(order, (row, i) => [row, i]));
        const result = plain.hand(text(foldsFile((row) => ((place.get(row) ?? 0) % 5) + 1)));
        expect(failing(result)).toEqual([]);
      }),
      { numRuns: 20 },
    );
  });

  describe('with out-of-fold predictions', () => {
    const reports = { ...values, reports: 'predictions', metric: 'accuracy', family: 'any' };
    const survived = (row: number) => ((row === 7 ? 2 : row) * 7) % 10 < 6;
    /** Wrong on every sixth row of an apiary, so that folds differ. */
    const said = (row: number): string =>
      survived(row) !== (row % (4 + byApiaryFold(row)) === 1) ? 'yes' : 'no';
    const file = (of: (row: number) => string) =>
      `colony,fold,prediction\n${all.map((row) => `c${row},${byApiaryFold(row)},${of(row)}`).join('\n')}\n`;
    const scores = Array.from({ length: 5 }, (_, fold) => {
      const rows = all.filter((row) => byApiaryFold(row) === fold + 1);
      return rows.filter((row) => said(row) === (survived(row) ? 'yes' : 'no')).length / rows.length;
    });
    const mean = scores.reduce((a, b) => a + b, 0) / 5;
    const se = Math.sqrt(scores.reduce((sum, score) => sum + (score - mean) ** 2, 0) / 4 / 5);
    const question = asked(begun('folds', { values: reports }));
    const hand = (fields: Record<string, string>, of = said) => question.hand({ ...text(file(of)), fields });

    it('are asked for in the columns that their metric needs', () => {
      expect(question.sheet().file?.columns).toEqual(['colony', 'fold', 'prediction']);
      const shares = asked(begun('folds', { values: { ...reports, metric: 'roc_auc' } }));
      expect(shares.sheet().file?.columns).toEqual(['colony', 'fold', 'probability']);
      expect(asked(begun('folds', { values })).sheet().file?.columns).toEqual(['colony', 'fold']);
    });

    it('are right where the figures reported are those of the predictions, to the digits typed', () => {
      expect(se).toBeGreaterThan(0.005);
      expect(hand({ mean: mean.toFixed(3), se: se.toFixed(3) })).toMatchObject({ holds: true, marks: 4 });
      expect(hand({ mean: `${(100 * mean).toFixed(1)} %`, se: se.toFixed(4) })).toMatchObject({ marks: 4 });
    });

    it('are found where they report a deviation for a standard error, or another mean', () => {
      expect(failing(hand({ mean: mean.toFixed(3), se: (se * Math.sqrt(5)).toFixed(3) }))).toEqual(['se']);
      expect(failing(hand({ mean: (mean + 0.02).toFixed(3), se: se.toFixed(3) }))).toEqual(['mean']);
    });

    it('far better than any reference run are evidence for staff, and cost nothing', () => {
      const curves = { run: { metric: 'accuracy', points: [{ setting: '3', mean: 0.6, se: 0.01 }] } };
      const result = asked(begun('folds', { values: reports }), material({ curves })).hand({
        ...text(file(said)),
        fields: { mean: mean.toFixed(3), se: se.toFixed(3) },
      });
      expect(failing(result)).toEqual([]);
      expect(result.marks).toBe(4);
      expect(result.judged.at(-1)?.check).toMatchObject({ id: 'evidence', outcome: 'unsure' });
    });

    it('that are all the same, or no better than that, earn nothing', () => {
      const constant = hand({ mean: '0.6', se: '0.01' }, () => 'yes');
      expect(failing(constant)).toEqual(['work']);
      expect(constant.marks).toBe(0);
      const random = hand({ mean: '0.5', se: '0.1' }, (row) => (((row * 7919) >> 3) % 2 ? 'yes' : 'no'));
      expect(failing(random)).toContain('work');
      expect(random.marks).toBe(0);
    });

    it.each([
      ['a decimal comma', { mean: '0,81', se: '0.02' }, 'has a decimal comma; write 0.81'],
      ['a unit', { mean: '0.81', se: '0.02 points' }, 'has the unit “points”'],
      ['nothing', { mean: '0.81' }, 'standard error is missing'],
    ])('and %s in what is typed are refused', (_, fields, words) => {
      const result = hand(fields);
      expect(result.holds).toBe(false);
      expect(result.checks.map(({ message }) => message).join()).toContain(words);
    });

    it('with an unknown label, or none, are refused with the line', () => {
      const result = hand({ mean: '0.8', se: '0.1' }, (row) => (row === 3 ? 'yess' : said(row)));
      expect(result.checks.find(({ id }) => id === 'labels')?.examples[0]?.text).toContain(
        'line 5: “yess” for c3',
      );
    });
  });

  it('more than there are rows are refused when the key is made', () => {
    expect(() => asked(begun('folds', { values: { ...values, k: 91 } }))).toThrow(
      '90 rows cannot make 91 folds',
    );
  });

  it('judged by a metric of another task are refused when they are composed', () => {
    const kind = questionKindOf('folds');
    expect(() =>
      kind.check(begun('folds', { values: { reports: 'predictions', metric: 'rmse' } }), SUBJECT),
    ).toThrow('does not judge this task');
    expect(at(all, 0)).toBe(0);
  });

  it('compared with a model are limited, since it is fitted for every submission', () => {
    const kind = questionKindOf('folds');
    const many = begun('folds', { values: { k: 30, reports: 'predictions', metric: 'accuracy' } });
    expect(() => kind.check(many, SUBJECT)).toThrow('at most 20 folds');
    expect(() =>
      kind.check(begun('folds', { values: { ...many.values, family: 'any' } }), SUBJECT),
    ).not.toThrow();
    expect(() =>
      kind.check(begun('folds', { values: { reports: 'predictions', settings: 'depth=3' } }), SUBJECT),
    ).toThrow('logistic has no setting “depth”');
  });
});
