import { describe, expect, it } from '@jest/globals';
import { SieveError } from '../../../foundation/errors.js';
import { asked, begun, fileOf, material, SUBJECT } from '../../../../test/asked.js';
import { tableOf } from '../../../../test/files.js';
import { secretOf } from '../../../../test/secrets.js';
import type { Respondent } from '../../generators/respondent.js';
import { generate } from '../../generators/generate.js';
import { numbersIn } from '../../generators/fixture-of-tests.js';
import { generatorOf } from '../../generators/registry.js';
import { at } from '../../../foundation/numbers.js';
import { newPlan } from '../../../data/sentence/sentence.js';
import { questionKindOf } from '../registry.js';

const problemOf = (work: () => void): SieveError | null => {
  try {
    work();
    return null;
  } catch (error) {
    if (error instanceof SieveError) return error;
    throw error;
  }
};
const by = (id: string): Respondent => ({ secret: secretOf(3), question: 'q1', id });

describe('values', () => {
  const question = begun('values');
  const { sheet, hand } = asked(question);
  const who = by('abel');
  const keysOf = (of = who) =>
    Object.fromEntries(
      numbersIn(generate(question.figures, of).asked).map(({ key, figure }) => [key, figure.value ?? NaN]),
    );
  const typed = (change: (value: number) => string, of = who) =>
    Object.fromEntries(Object.entries(keysOf(of)).map(([key, value]) => [key, change(value)]));

  it('shows a student their own figures in the text, and no other', () => {
    const own = sheet(who);
    expect(own.text).not.toContain('{');
    expect(own.text).not.toBe(sheet(by('ben')).text);
    expect(own.fields.map(({ key }) => key)).toEqual(Object.keys(keysOf()));
    expect(own.file?.forms).toEqual([`figures: ${Object.keys(keysOf()).join(', ')}`]);
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
    expect(hand({ fields: typed((value) => value.toFixed(3), by('ben')) }, who).marks).toBe(0);
  });

  it('that are wrong are said to be so by their name, and why where it is known', () => {
    const said = (change: (value: number) => string) =>
      hand({ fields: typed(change) }, who).judged.map(({ check }) => check.message);
    expect(said((value) => (value / 2).toFixed(4))).toEqual([
      'precision is not right',
      'recall (sensitivity) is not right',
    ]);
    expect(said((value) => value.toFixed(3))).toEqual([
      'precision is right',
      'recall (sensitivity) is right',
    ]);
    expect(said((value) => value.toFixed(1)).every((text) => /: ./.test(text))).toBe(true);
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
    const kind = generatorOf({ kind: 'column-summary' });
    const plan = newPlan(kind, material().table.columns);
    const data = asked(
      begun('values', {
        figures: { ...plan, values: { ...plan.values, column: 'weight' } },
        text: kind.text,
      }),
    );
    expect(data.sheet(by('ada'))).toEqual(data.sheet(by('ben')));
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
    expect(data.about.join()).toContain('of the training rows (90)');
  });

  it('of which one number is typed everywhere earn nothing, though it is right somewhere', () => {
    const kind = generatorOf({ kind: 'column-summary' });
    const plan = newPlan(kind, material().table.columns);
    const four = asked(
      begun('values', {
        figures: {
          ...plan,
          values: {
            ...plan.values,
            column: 'weight',
            asked: ['mean', 'median', 'lower quartile', 'upper quartile'],
          },
        },
        text: kind.text,
        tolerance: { kind: 'absolute', values: { within: 0.001 } },
      }),
    );
    const asks = numbersIn(('computed' in four.key && four.key.computed?.asked) || []);
    expect(asks).toHaveLength(4);
    const right = Object.fromEntries(asks.map(({ key, figure }) => [key, String(figure.value)]));
    const [first = ''] = Object.values(right);
    const same = Object.fromEntries(Object.keys(right).map((key) => [key, first]));
    const marks = (fields: Record<string, string>) => four.hand({ fields }).marks;
    expect(marks(right)).toBe(4);
    expect(marks({ ...same, [at(asks, 1).key]: '-1' })).toBe(1);
    expect(marks(same)).toBe(0);
  });

  it('that are honestly the same number earn their marks', () => {
    // The mean is 14.01 and the median 14.
    const weight = (i: number) => (i < 44 ? 13 : i < 46 ? 14 : i < 89 ? 15 : 15.9);
    const table = tableOf(
      `colony,weight,survived\n${Array.from({ length: 120 }, (_, i) => `c${i},${weight(i)},${i % 3 ? 'yes' : 'no'}`).join('\n')}\n`,
    );
    const kind = generatorOf({ kind: 'column-summary' });
    const plan = newPlan(kind, table.columns);
    const figures = { ...plan, values: { ...plan.values, column: 'weight' } };
    const { hand: give } = asked(
      begun('values', {
        figures,
        text: kind.text,
        tolerance: { kind: 'absolute', values: { within: 0.02 } },
      }),
      material({ table, roles: { ...material().roles, group: null } }),
    );
    expect(give({ fields: { mean: '14', median: '14' } }).marks).toBe(4);
    expect(give({ fields: { mean: '3', median: '3' } })).toMatchObject({ marks: 0 });
  });

  it('of one’s own seeded work are right within the range, and no rounder number is', () => {
    const kind = generatorOf({ kind: 'seeded-score' });
    const plan = newPlan(kind, material().table.columns);
    const own = asked(
      begun('values', {
        figures: { ...plan, values: { ...plan.values, model: 'tree', metric: 'accuracy', seeds: 20 } },
        text: kind.text,
      }),
    );
    const [low = 0, high = 0] =
      ('computed' in own.key && numbersIn(own.key.computed?.asked ?? [])[0]?.between) || [];
    const marks = (value: number | string) => own.hand({ fields: { accuracy: String(value) } }).marks;
    expect(high).toBeGreaterThan(low);
    expect([marks(low), marks((low + high) / 2), marks(high)]).toEqual([4, 4, 4]);
    expect([marks(low - 0.001), marks(high + 0.001)]).toEqual([0, 0]);
    // One digit says hardly anything, and is taken as it is.
    expect([marks('1'), marks('0')]).toEqual([high >= 1 ? 4 : 0, low <= 0 ? 4 : 0]);
  });

  it('computed from the data refuse a placeholder that stands for nothing when the key is made', () => {
    const plan = newPlan(generatorOf({ kind: 'column-summary' }), material().table.columns);
    const figures = { ...plan, values: { ...plan.values, column: 'weight' } };
    expect(() => asked(begun('values', { figures, text: 'Of {row}' }))).toThrow(
      '{row} is nothing that is drawn',
    );
  });

  it('with a placeholder that nothing is drawn for are refused when they are composed', () => {
    const kind = questionKindOf('values');
    const check = () => kind.check(begun('values', { text: 'Of {nn} rows' }), SUBJECT);
    expect(check).toThrow('{nn} is nothing that is drawn; there are {n}');
    expect(problemOf(check)?.place.field).toBe('text');
  });
});

describe('a figure with several usual definitions', () => {
  it('has the one that is meant on the student’s sheet', () => {
    const figures = { kind: 'summary', values: { rows: 9, asked: ['standard deviation', 'mean'] } };
    const { fields } = asked(begun('values', { text: '{list}', figures })).sheet();
    expect(fields.map(({ label }) => label)).toEqual(['mean', 'standard deviation (with n − 1)']);
  });
});
