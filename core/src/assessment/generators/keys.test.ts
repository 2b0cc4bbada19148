import { describe, expect, it } from '@jest/globals';
import { tableOf, testFile } from '../../../test/files.js';
import { readCsv } from '../../data/formats/csv/read.js';
import { newPlan } from '../../data/sentence/sentence.js';
import type { PlanValue } from '../../data/sentence/parameter.js';
import type { Roles } from '../../data/table/roles.js';
import type { Table } from '../../data/table/table.js';
import { at } from '../../foundation/numbers.js';
import { numbersIn } from './fixture-of-tests.js';
import { claimedSlips } from '../questions/values/claimed-slips.js';
import { typedNumber } from './typed.js';
import { asksNames, type GeneratedItem } from './generator.js';
import { GENERATORS, generatorOf } from './registry.js';

interface Case {
  readonly kind: string;
  /** The target. */
  readonly of: 'progress' | 'high';
  readonly values: Record<string, PlanValue>;
  /** By what is asked; `*` where a single figure is asked for. */
  readonly expected: Record<string, number | readonly string[]>;
}

/** What other libraries make of the same data: see keys.py beside the file. */
const { cases, mistakes } = JSON.parse(new TextDecoder().decode(testFile('reference/keys.json'))) as {
  cases: Case[];
  /** What a known mistake gives in a figure. */
  mistakes: (Omit<Case, 'expected'> & {
    readonly slip: string;
    readonly figure: string;
    readonly value: number;
  })[];
};
const DATA = readCsv(testFile('reference/keys.csv'), { file: 'keys.csv' }).table;

const rolesOf = (target: Case['of']): Roles => ({
  target,
  task: target === 'high' ? 'binary' : 'regression',
  positive: target === 'high' ? 'yes' : null,
  identifier: null,
  group: null,
  time: null,
  weight: null,
  withheld: [],
});

function computed(
  kind: string,
  target: Case['of'],
  values: Record<string, PlanValue>,
  table: Table = DATA,
): GeneratedItem {
  const generator = generatorOf({ kind });
  if (generator.from !== 'data') throw new Error('drawn');
  const plan = { ...newPlan(generator, table.columns).values, ...values };
  generator.check?.(plan, table.columns, rolesOf(target));
  return generator.compute(plan, { table, validation: null, all: table, roles: rolesOf(target) });
}

describe('keys from the data and from models', () => {
  it('are held against other libraries, all but those that no library has', () => {
    const ours = new Set(['own-split', 'own-folds', 'seeded-score', 'typed-key']);
    const all = GENERATORS.filter(({ from, key }) => from === 'data' && !ours.has(key)).map(({ key }) => key);
    expect(new Set(cases.map(({ kind }) => kind))).toEqual(new Set(all));
  });

  it.each(cases.map((one, i) => [one.kind, i, one] as const))(
    '%s (%i) is what pandas, SciPy, scikit-learn or statsmodels give',
    (kind, _, { of, values, expected }) => {
      const { asked } = computed(kind, of, values);
      const found = new Map(
        asked.map((one) => [one.name, asksNames(one) ? one.right : one.figure.value] as const),
      );
      if ('*' in expected) {
        expect(asked).toHaveLength(1);
        expect(at([...found.values()], 0)).toBeCloseTo(expected['*'] as number, 6);
        return;
      }
      expect(new Set(found.keys())).toEqual(new Set(Object.keys(expected)));
      for (const [name, value] of Object.entries(expected)) {
        const own = found.get(name);
        const accepted = asked.flatMap((one) =>
          one.name === name && !asksNames(one) && one.between ? [one.between] : [],
        )[0];
        if (typeof value !== 'number') expect(own).toEqual(value);
        // Another program's own penalties: what it finds is within what is accepted here.
        else if (accepted) expect(value > accepted[0] && value < accepted[1]).toBe(true);
        else expect(Math.abs(Number(own) - value)).toBeLessThan(1e-6 * Math.max(1, Math.abs(value)));
      }
    },
  );

  it.each(cases.map((one, i) => [one.kind, i, one] as const))(
    '%s (%i) fills its text, and shows no key there',
    (kind, _, { of, values }) => {
      const { given, asked } = computed(kind, of, values);
      for (const [, name = ''] of generatorOf({ kind }).text.matchAll(/\{(\w+)\}/g))
        expect(given).toHaveProperty(name);
      const shown = JSON.stringify(given);
      for (const one of asked)
        if (!asksNames(one) && !Number.isInteger(one.figure.value))
          expect(shown).not.toContain(String(one.figure.value).slice(0, 6));
    },
  );

  it('from a seed are what the command line gives for the file that students have', () => {
    const { given, asked } = computed('own-split', 'high', {
      ...{ method: 'stratified', share: 30, seed: 7 },
      asked: ['test rows', 'rows left to train on', 'positive test rows', 'target of the test rows'],
    });
    expect(given['command']).toBe(
      'sieve split training.csv --parts train=rest,test=0.3 --stratify "high" --seed 7',
    );
    const [test, rest, positive, target] = numbersIn(asked).map(({ figure }) => figure.value ?? NaN);
    // The shares of both classes are those of all rows, to one row.
    expect([test, rest]).toEqual([133, 311]);
    expect(Math.abs((positive ?? 0) - (133 * 223) / 444)).toBeLessThan(1);
    expect(target).toBeCloseTo((positive ?? 0) / 133, 12);
  });

  it('of folds are sizes that differ by a row at most, and fits that are counted', () => {
    const { asked } = computed('own-folds', 'high', {
      ...{ method: 'stratified', k: 7, seed: 3, settings: 12 },
      asked: [
        'largest test fold',
        'smallest test fold',
        'fits of the grid',
        'fits with the last one on all rows',
      ],
    });
    // 444 rows in 7 folds.
    expect(numbersIn(asked).map(({ figure }) => figure.value)).toEqual([64, 63, 84, 85]);
  });

  it('may be typed, with where they come from', () => {
    const { given, asked } = computed('typed-key', 'high', {
      answers: [
        ['area under the curve', '0.83'],
        ['rows', '1200'],
      ],
      source: 'the paper’s table 2',
    });
    expect(given['source']).toBe('the paper’s table 2');
    expect(numbersIn(asked).map(({ key, figure }) => [key, figure.value])).toEqual([
      ['area_under_the_curve', 0.83],
      ['rows', 1200],
    ]);
    expect(() => computed('typed-key', 'high', { answers: [['rows', 'many']], source: 'x' })).toThrow(
      'rows: “many” is no number.',
    );
    const twice = [
      ['rows', '1'],
      ['Rows', '2'],
    ];
    expect(() => computed('typed-key', 'high', { answers: twice, source: 'x' })).toThrow('the same name');
  });

  it.each([
    ['coefficient', 'progress', { model: 'forest', term: 'age' }, 'Write a model as its family'],
    ['coefficient', 'progress', { model: 'linear', term: 'weight' }, 'There is no term “weight”; there are '],
    ['coefficient', 'progress', { model: 'tree', term: 'age' }, 'This model has no coefficients.'],
    ['coefficient', 'progress', { model: 'logistic', term: 'age' }, 'does not predict for this task'],
    ['coefficient', 'progress', { model: 'linear', features: ['progress'], term: 'age' }, 'is the target'],
    ['tree-shape', 'progress', { model: 'linear' }, 'A tree is needed'],
    ['residual-figures', 'high', { model: 'logistic' }, 'Residuals need a target of numbers.'],
    ['model-score', 'high', { metric: 'rmse' }, 'does not judge this task'],
    [
      'target-by-value',
      'high',
      { column: 'ages', value: 'from 80' },
      'No row of the training rows has “from 80”',
    ],
    [
      'column-counts',
      'high',
      { column: 'bp', asked: ['commonest value'] },
      'There are more than 30 values to choose from.',
    ],
    ['correlation', 'high', { column: 'bmi', other: 'ages', measure: 'pearson' }, 'ages holds no numbers.'],
    ['rows-left', 'high', { rule: 'condition', condition: 'weight > 3' }, 'weight'],
    ['table-counts', 'high', { rows: 'validation' }, 'The split has no validation rows.'],
    ['best-setting', 'high', { settings: ['one'] }, 'A setting is a number, not “one”.'],
    ['best-setting', 'high', { settings: ['1', '1'] }, 'Give two settings or more, each once.'],
    ['one-case', 'high', { model: 'logistic', cells: [['weight', '3']] }, 'weight is none of the features.'],
    ['likelihood', 'progress', { column: 'bmi', value: '3', class: 'yes' }, 'needs a target of classes'],
  ] as const)('%s of %s with %j is refused, and says why', (kind, of, values, message) => {
    expect(() => computed(kind, of, values)).toThrow(message);
    expect(() => computed(kind, of, values)).toThrow(
      expect.objectContaining({ place: expect.objectContaining({ field: expect.any(String) }) }),
    );
  });

  it('of equals are refused, since either would be right', () => {
    const table = tableOf(
      'group,x,z,y,high,progress\na,1,1,2,yes,1\na,3,3,2,no,2\nb,2,2,2,yes,3\nb,2,2,4,no,5\n',
    );
    const refused = (kind: string, values: Record<string, PlanValue>) =>
      expect(() => computed(kind, 'progress', values, table));
    refused('by-group', {
      column: 'x',
      by: 'group',
      group: 'a',
      asked: ['group of the largest mean'],
    }).toThrow('group of the largest mean: two groups are equal.');
    refused('column-counts', { column: 'group', asked: ['commonest value'] }).toThrow(
      'commonest value: two values are equal.',
    );
    refused('strongest-correlation', { column: 'y' }).not.toThrow();
    refused('strongest-correlation', { column: 'x' }).not.toThrow();
    const same = tableOf('x,z,high,progress\n1,1,yes,1\n3,3,no,2\n2,2,yes,4\n');
    expect(() => computed('strongest-correlation', 'progress', { column: 'progress' }, same)).toThrow(
      'Two columns are equally strong.',
    );
  });

  it.each(['lasso', 'ridge', 'nearest', 'naive-bayes'])(
    'weights of rows are not asked for of %s',
    (model) => {
      expect(() =>
        computed('weighted-score', model === 'naive-bayes' ? 'high' : 'progress', {
          ...{ model, features: ['age'], metric: model === 'naive-bayes' ? 'accuracy' : 'rmse' },
          ...{ by: 'ages', group: 'from 60', weight: 5 },
        }),
      ).toThrow('Fits with weights differ between programs');
    },
  );
});

describe('a mistake where a key is of a model', () => {
  it.each(mistakes.map((one) => [one.slip, one.kind, one] as const))(
    '%s in %s is named',
    (slip, kind, { of, values, figure, value }) => {
      const asked = numbersIn(computed(kind, of, values).asked).find(({ name }) => name === figure);
      const read = typedNumber(value.toFixed(5));
      if (!asked || 'wrong' in read) throw new Error('not asked for');
      expect(claimedSlips(asked, read)).toContain(slip);
    },
  );
});
