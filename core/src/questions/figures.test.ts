import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { asked, begun, failing, fileOf, material, SUBJECT } from '../../test/asked.js';
import { fit } from '../../test/models.js';
import { deal } from '../draws/deal.js';
import { at } from '../numbers.js';
import { newPlan } from '../sentence/sentence.js';
import { drawKindOf } from '../draws/registry.js';
import type { Sheet } from './question.js';
import { READINGS } from '../readings/registry.js';
import { checkQuestions, questionKindOf } from './registry.js';

describe('a curve', () => {
  const settings = ['1', '2', '4', '8', '16'];
  const values = { setting: 'depth', settings, measure: 'error', rule: 'best' };
  const training = [0.3, 0.22, 0.15, 0.05, 0];
  const validation = [0.32, 0.26, 0.24, 0.27, 0.31];
  const table = (valid = validation, train = training, names = settings) =>
    `depth,training,validation\n${names.map((name, i) => `${name},${train[i]},${valid[i]}`).join('\n')}\n`;
  const right = { chosen: '4', simplest: 'under', complex: 'over' };
  const hand = (
    fields: Record<string, string>,
    file = table(),
    over: Record<string, string | number | string[]> = {},
  ) => asked(begun('curve', { values: { ...values, ...over } })).hand({ file: fileOf(file), fields });

  it('with the best chosen and both ends named rightly earns all marks', () => {
    expect(hand(right)).toMatchObject({ holds: true, marks: 4 });
  });

  it.each([
    ['the lowest training error is chosen', { ...right, chosen: '16' }, ['choice']],
    [
      'under- and overfitting are exchanged',
      { ...right, simplest: 'over', complex: 'under' },
      ['simplest', 'complex'],
    ],
    [
      'nothing is said to be wrong at the ends',
      { ...right, simplest: 'neither', complex: 'neither' },
      ['simplest', 'complex'],
    ],
  ])('loses marks where %s', (_, fields, ids) => {
    expect(failing(hand(fields))).toEqual(ids);
  });

  it('turned about is found by its training errors', () => {
    expect(failing(hand(right, table([...validation].reverse(), [...training].reverse())))).toContain(
      'shape',
    );
  });

  it('by the one-standard-error rule is the simplest within one of the best', () => {
    const file = `depth,training,validation,standard_error\n${settings.map((name, i) => `${name},${training[i]},${validation[i]},0.03`).join('\n')}\n`;
    const rule = { rule: 'one-se' };
    expect(failing(hand({ ...right, chosen: '2' }, file, rule))).toEqual([]);
    expect(failing(hand(right, file, rule))).toEqual(['choice']);
    expect(hand({ ...right, chosen: '2' }, table(), rule).checks[0]?.message).toContain(
      'no column “standard_error”',
    );
  });

  it('of scores goes the other way', () => {
    const file = table(
      validation.map((error) => 1 - error),
      training.map((error) => 1 - error),
    );
    expect(failing(hand(right, file, { measure: 'score' }))).toEqual([]);
    expect(failing(hand(right, file))).toContain('shape');
  });

  it('is compared with a run where one is named', () => {
    const curves = {
      run: {
        metric: 'error_rate',
        points: settings.map((setting, i) => ({ setting, mean: at(validation, i), se: 0.02 })),
      },
    };
    const of = (file: string) =>
      failing(
        asked(begun('curve', { values, run: 'run' }), material({ curves })).hand({
          file: fileOf(file),
          fields: right,
        }),
      );
    expect(of(table())).toEqual([]);
    expect(of(table(validation.map((error) => error / 3)))).toEqual(['run']);
    expect(() => asked(begun('curve', { values, run: 'gone' }))).toThrow(
      'The run of the curve is not there any more',
    );
  });

  it('is compared with a run in what the student measures, whatever the run was judged by', () => {
    const judgedBy = (metric: string) => ({
      run: {
        metric,
        points: settings.map((setting, i) => ({ setting, mean: 1 - at(validation, i), se: 0.02 })),
      },
    });
    const question = begun('curve', { values, run: 'run' });
    const { hand } = asked(question, material({ curves: judgedBy('accuracy') }));
    expect(failing(hand({ file: fileOf(table()), fields: right }))).toEqual([]);
    expect(() => asked(question, material({ curves: judgedBy('r2') }))).toThrow('cannot be told as an error');
  });

  it.each([
    [
      'a setting stands twice, written otherwise',
      table(validation, training, ['1', '2', '2.0', '8', '16']),
      'depth 2.0 stands on line 3 too',
    ],
    [
      'a setting stands twice',
      table(validation, training, ['1', '2', '2', '8', '16']),
      'depth 2 stands on line 3 too',
    ],
    [
      'a setting is missing',
      table(validation, training, settings.slice(0, 4)),
      'There is no line for depth 16',
    ],
    [
      'a setting was not asked for',
      table(validation, training, ['1', '2', '3', '8', '16']),
      'depth “3” is not among',
    ],
    ['a cell has a decimal comma', table().replace('0.22', '"0,22"'), 'line 3: training “0,22” of depth 2'],
    ['a cell is blank', table().replace('0.22', ''), 'line 3: training “” of depth 2'],
  ])('is refused where %s', (_, file, words) => {
    const result = hand(right, file);
    expect(result).toMatchObject({ holds: false, marks: null });
    expect(
      result.checks.flatMap(({ message, examples }) => [message, ...examples.map((one) => one.text)]).join(),
    ).toContain(words);
  });

  it('is refused where nothing is chosen', () => {
    expect(hand({ ...right, chosen: '' }).checks.at(-1)).toMatchObject({
      outcome: 'fails',
      message: 'depth chosen: nothing is chosen.',
    });
  });

  it('takes three settings or more, each once', () => {
    const kind = questionKindOf('curve');
    expect(() => kind.check(begun('curve', { values: { settings: ['1', '2'] } }), SUBJECT)).toThrow(
      'three settings or more',
    );
  });
});

describe('values', () => {
  const question = begun('values');
  const { sheet, hand } = asked(question);
  const who = { seed: 3, id: 'abel' };
  const keysOf = (of = who) =>
    Object.fromEntries(
      deal(question.figures, of.seed, of.id).asked.map(({ key, figure }) => [key, figure.value ?? NaN]),
    );
  const typed = (change: (value: number) => string, of = who) =>
    Object.fromEntries(Object.entries(keysOf(of)).map(([key, value]) => [key, change(value)]));

  it('shows a student their own figures in the text, and no other', () => {
    const own = sheet(who);
    expect(own.text).not.toContain('{');
    expect(own.text).not.toBe(sheet({ seed: 3, id: 'ben' }).text);
    expect(own.fields.map(({ key }) => key)).toEqual(Object.keys(keysOf()));
    for (const value of Object.values(keysOf())) expect(JSON.stringify(own)).not.toContain(value.toFixed(3));
  });

  it('are right to the digits typed, and wrong where two are exchanged or belong to somebody else', () => {
    expect(hand({ fields: typed((value) => value.toFixed(3)) }, who)).toMatchObject({
      holds: true,
      marks: 4,
    });
    expect(hand({ fields: typed((value) => `${(value * 100).toFixed(1)} %`) }, who)).toMatchObject({
      marks: 4,
    });
    const [precision = '', recall = ''] = Object.keys(keysOf());
    const exchanged = {
      [precision]: (keysOf()[recall] ?? 0).toFixed(3),
      [recall]: (keysOf()[precision] ?? 0).toFixed(3),
    };
    expect(hand({ fields: exchanged }, who).marks).toBe(0);
    expect(hand({ fields: typed((value) => value.toFixed(3), { seed: 3, id: 'ben' }) }, who).marks).toBe(0);
  });

  it('come as a file too', () => {
    const lines = Object.entries(typed((value) => value.toFixed(3))).map(([key, value]) => `${key},${value}`);
    expect(hand({ file: fileOf(`figure,value\n${lines.join('\n')}\n`) }, who)).toMatchObject({ marks: 4 });
    const stray = hand({ file: fileOf(`figure,value\n${lines.join('\n')}\nlift,2\n`) }, who);
    expect(stray.checks[0]?.examples[0]?.text).toBe('line 4: “lift” is not asked for');
    expect(hand({ file: fileOf('a,b\n1,2\n') }, who).checks[0]?.message).toContain('not figure and value');
  });

  it.each([
    ['a unit', '0.8 points', 'has the unit'],
    ['a decimal comma', '0,8', 'decimal comma'],
    ['nothing', '', 'is missing'],
  ])('with %s are refused and cost no attempt', (_, text, words) => {
    const result = hand({ fields: typed(() => text) }, who);
    expect(result).toMatchObject({ holds: false, marks: null });
    expect(result.checks.map(({ message }) => message).join()).toContain(words);
  });

  it('computed from the data are the same for all, with their key in no sheet', () => {
    const kind = drawKindOf({ kind: 'column-summary' });
    const plan = newPlan(kind, material().table.columns);
    const data = asked(
      begun('values', {
        figures: { ...plan, values: { ...plan.values, column: 'weight' } },
        text: kind.text,
      }),
    );
    expect(data.sheet({ seed: 3, id: 'ada' })).toEqual(data.sheet({ seed: 4, id: 'ben' }));
    const weights = Array.from({ length: 90 }, (_, i) => ((i === 7 ? 2 : i) * 13) % 29);
    const mean = weights.reduce((a, b) => a + b, 0) / 90;
    const median =
      [...weights]
        .sort((a, b) => a - b)
        .slice(44, 46)
        .reduce((a, b) => a + b, 0) / 2;
    expect(data.hand({ fields: { mean: mean.toFixed(4), median: String(median) } })).toMatchObject({
      marks: 4,
    });
    expect(JSON.stringify(data.rules)).not.toContain(mean.toFixed(3));
    expect(data.about.join()).toContain('of 90 training rows');
  });

  it('of one’s own seeded work are right within the range, and no rounder number is', () => {
    const kind = drawKindOf({ kind: 'seeded-score' });
    const plan = newPlan(kind, material().table.columns);
    const own = asked(
      begun('values', {
        figures: { ...plan, values: { ...plan.values, model: 'tree', metric: 'accuracy', seeds: 20 } },
        text: kind.text,
      }),
    );
    const [low = 0, high = 0] = ('computed' in own.key && own.key.computed?.asked[0]?.between) || [];
    const marks = (value: number | string) => own.hand({ fields: { accuracy: String(value) } }).marks;
    expect(high).toBeGreaterThan(low);
    expect([marks(low), marks((low + high) / 2), marks(high)]).toEqual([4, 4, 4]);
    expect([marks(low - 0.001), marks(high + 0.001)]).toEqual([0, 0]);
    // One digit says hardly anything, and is taken as it stands.
    expect([marks('1'), marks('0')]).toEqual([high >= 1 ? 4 : 0, low <= 0 ? 4 : 0]);
  });

  it('computed from the data refuse a placeholder that stands for nothing when the key is made', () => {
    const plan = newPlan(drawKindOf({ kind: 'column-summary' }), material().table.columns);
    const figures = { ...plan, values: { ...plan.values, column: 'weight' } };
    expect(() => asked(begun('values', { figures, text: 'Of {rows}' }))).toThrow(
      '{rows} is nothing that is drawn',
    );
  });

  it('with a placeholder that nothing is drawn for are refused when they are composed', () => {
    const kind = questionKindOf('values');
    expect(() => kind.check(begun('values', { text: 'Of {nn} rows' }), SUBJECT)).toThrow(
      '{nn} is nothing that is drawn; there are {n}',
    );
  });
});

describe('a choice', () => {
  const statements = [
    { text: 'Rows of one apiary resemble one another', truth: true },
    { text: 'A split needs no seed to be drawn again', truth: false },
    { text: 'Folds overlap', truth: false },
  ];
  /** Answers to the statements in the order in which they were written. */
  const answers = (sheet: Sheet, ...said: string[]) =>
    Object.fromEntries(
      said.map((one, i) => [sheet.fields.find(({ label }) => label === statements[i]?.text)?.key ?? '', one]),
    );

  it.each([
    ['each', ['true', 'false', 'false'], 3],
    ['each', ['true', 'false', 'true'], 2],
    ['less', ['true', 'false', 'true'], 1],
    ['less', ['false', 'true', 'true'], 0],
    ['all', ['true', 'false', 'true'], 0],
    ['all', ['true', 'false', 'false'], 3],
  ])('with credit “%s” for %j earns %d of 3', (credit, said, marks) => {
    const { hand, sheet } = asked(begun('choice', { statements, values: { manner: 'each', credit } }));
    expect(hand({ fields: answers(sheet(), ...said) })).toMatchObject({ holds: true, marks });
  });

  it('of one statement has it, whatever order a student sees', () => {
    const one = asked(begun('choice', { statements, values: { manner: 'one' } }));
    const orders = new Set(
      ['ada', 'ben', 'cleo', 'dora', 'emil', 'finn'].map((id) => {
        const own = one.sheet({ seed: 3, id }).fields[0]?.choices ?? [];
        const right = own.find(({ text }) => text.startsWith('Rows of one'))?.value ?? '';
        expect(one.hand({ fields: { chosen: right } }, { seed: 3, id }).marks).toBe(3);
        return own.map(({ value }) => value).join();
      }),
    );
    expect(orders.size).toBeGreaterThan(1);
    const wrong = one.sheet().fields[0]?.choices?.find(({ text }) => text === 'Folds overlap')?.value ?? '';
    const marked = one.hand({ fields: { chosen: wrong } });
    expect(marked.marks).toBe(0);
    expect(marked.judged[0]?.check).toMatchObject({
      measured: '“Folds overlap”',
      expected: '“Rows of one apiary resemble one another”',
    });
  });

  it('that is not answered whole is refused', () => {
    const { hand, sheet } = asked(begun('choice', { statements }));
    expect(hand({ fields: answers(sheet(), 'true', 'false') })).toMatchObject({ holds: false });
    expect(hand({ fields: answers(sheet(), 'true', 'false', 'maybe') }).checks[0]?.message).toContain(
      '“maybe” cannot be chosen',
    );
  });

  it('names its statements in an order that says nothing: the one written first has another name each time', () => {
    const nameOf = (secretSeed: number) =>
      asked(begun('choice', { statements }), material({ secretSeed }))
        .sheet()
        .fields.find(({ label }) => label === statements[0]?.text)?.key;
    expect(new Set(Array.from({ length: 30 }, (_, seed) => nameOf(seed))).size).toBe(3);
  });

  it('tells no truth in what students get', () => {
    const made = asked(begun('choice', { statements }));
    expect(JSON.stringify([made.rules, made.sheet()])).not.toMatch(/"truth"/);
  });

  it('of the library is worded right or wrong by lot, and marked by how it was worded', () => {
    const chance = READINGS.filter(({ from }) => from === 'chance');
    const own = asked(
      begun('choice', { statements: chance.map(({ key }) => ({ reading: key })), marks: chance.length }),
    );
    const truths = new Set<string>();
    for (let i = 0; i < 40; i++) {
      const who = { seed: 9, id: `student ${i}` };
      const answers = Object.fromEntries(chance.map((_, s) => [`s${s + 1}`, 'true']));
      const { judged, marks } = own.hand({ fields: answers }, who);
      judged.forEach(({ check }) => truths.add(`${check.id} ${check.expected}`));
      const told = Object.fromEntries(judged.map(({ check }) => [check.id, check.expected ?? '']));
      expect(own.hand({ fields: told }, who).marks).toBe(chance.length);
      expect(marks).toBeLessThan(chance.length + 1);
    }
    expect(truths.size).toBe(2 * chance.length);
  });

  it('about the data has its truth computed: 54 of 90 rows are of the most frequent class', () => {
    const share =
      Array.from({ length: 90 }, (_, i) => ((i === 7 ? 2 : i) * 7) % 10 < 6).filter(Boolean).length / 90;
    fc.assert(
      fc.property(fc.nat(), (secretSeed) => {
        const made = asked(
          begun('choice', { statements: [{ reading: 'most-frequent' }] }),
          material({ secretSeed }),
        );
        const text = made.sheet().fields[0]?.label ?? '';
        const limit = Number(/more than (\d+) %/.exec(text)?.[1]);
        expect(made.hand({ fields: { s1: String(100 * share > limit) } }).marks).toBe(3);
      }),
      { numRuns: 20 },
    );
    expect(() => asked(begun('choice', { statements: [{ reading: 'mean-median' }] }))).toThrow(
      'need a target of numbers',
    );
  });

  it.each([
    [[], 'Give one statement or more.'],
    [[{ text: ' ', truth: true }], 'Statement 1 is empty.'],
    [[{ reading: 'nothing' }], 'There is no reading “nothing”.'],
  ])('of %j is refused when it is composed', (own, words) => {
    expect(() => questionKindOf('choice').check(begun('choice', { statements: own }), SUBJECT)).toThrow(
      words,
    );
  });

  it('of one statement needs exactly one that is true, and none that is worded by lot', () => {
    const one = (own: typeof statements | { reading: string }[]) => () =>
      questionKindOf('choice').check(
        begun('choice', { statements: own, values: { manner: 'one' } }),
        SUBJECT,
      );
    expect(one(statements.map(({ text }) => ({ text, truth: true })))).toThrow(
      '3 statements are true, and one must be',
    );
    expect(one([{ reading: 'r2' }])).toThrow('worded by lot');
  });
});

describe('predictions with the benefit of the doubt', () => {
  it('keep what the reference runs say of the held-out rows in the key, and in nothing that students get', () => {
    const fitted = fit(
      material().table,
      'survived',
      'binary',
      'tree',
      {},
      { features: ['weight', 'frames'] },
    );
    const scheme = { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10, doubt: true };
    const made = asked(
      begun('predictions', { metric: 'accuracy', scheme }),
      material({ references: [fitted] }),
    );
    const { references = [] } = 'feedback' in made.key ? made.key : {};
    expect(references).toHaveLength(1);
    expect(references[0]?.predictions.predicted).toHaveLength(30);
    expect(JSON.stringify([made.rules, made.sheet()])).not.toContain('references');
  });
});

describe('the questions of an exercise', () => {
  const predictions = begun('predictions');
  it.each([
    [[], 'Add a question.'],
    [[predictions, predictions], 'Question 2 has no name of its own.'],
    [[{ ...predictions, title: ' ' }], 'Question 1: Give it a title.'],
    [[predictions, { ...begun('choice'), id: 'q2', marks: 0 }], 'Question 2: All marks are a number above 0'],
    [[{ ...predictions, metric: 'rmse' }], 'Question 1: root mean squared error does not judge this task.'],
  ])('are refused with the place of what is wrong: %#', (questions, words) => {
    expect(() => checkQuestions(questions, SUBJECT)).toThrow(words);
  });

  it('of every kind, as they are begun, can be asked', () => {
    const all = (['predictions', 'split', 'folds', 'curve', 'values', 'choice'] as const).map((kind, i) => ({
      ...begun(kind),
      id: `q${i + 1}`,
    }));
    expect(() => checkQuestions(all, SUBJECT)).not.toThrow();
  });
});
