import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf, testFile } from '../../../test/files.js';
import { fit } from '../../../test/models.js';
import type { Table } from '../../data/table/table.js';
import { at, indices } from '../../foundation/numbers.js';
import { dependenceOf } from './dependence.js';

/** Computed by test/reference/columns.py with scikit-learn, by the method `brute`. */
const { dependence } = JSON.parse(new TextDecoder().decode(testFile('reference/columns.json'))) as {
  dependence: Record<
    'linear' | 'tree' | 'naive-bayes',
    { columns: string[]; values: number[][]; mean: number[][] }[]
  >;
};

/** Rounded as there, so that each column has few values, which are followed one by one. */
function rounded(): Table {
  const table = diabetes();
  const columns = table.columns.map((column) =>
    column.kind === 'number' && column.name !== 'target'
      ? { ...column, values: column.values.map((value) => Math.round(value / 0.025) * 0.025) }
      : column,
  );
  return { ...table, columns };
}

const NAMES: Readonly<Record<string, string>> = {
  'petal length (cm)': 'petal_length',
  'petal width (cm)': 'petal_width',
};

const all = ({ rowCount }: { rowCount: number }) => indices(rowCount);

describe('partial dependence', () => {
  const cases = [
    ['linear', rounded(), 'regression', {}, [null]],
    ['tree', rounded(), 'regression', { depth: 4, rows_per_leaf: 5 }, [null]],
    ['naive-bayes', iris(), 'multiclass', {}, ['setosa', 'versicolor', 'virginica']],
  ] as const;
  it.each(cases)(
    'of %s is that of scikit-learn on one and two columns',
    (kind, table, task, values, labels) => {
      const fitted = fit(table, 'target', task, kind, values);
      for (const { columns, values: places, mean } of dependence[kind]) {
        labels.forEach((label, k) => {
          const own = columns.map((name) => NAMES[name] ?? name);
          const found = dependenceOf(fitted, table, all(table), own, label, 1);
          expect(found.axes.map(({ values: { length } }) => length)).toEqual(
            places.map(({ length }) => length),
          );
          found.axes.forEach((axis, a) =>
            axis.values.forEach((value, i) => expect(value).toBeCloseTo(at(at(places, a), i), 10)),
          );
          found.mean.forEach((value, i) => expect(value).toBeCloseTo(at(at(mean, k), i), 6));
        });
      }
    },
  );

  const lines = Array.from(
    { length: 50 },
    (_, i) => `${i % 10},${'abc'[i % 3]},2026-0${1 + (i % 9)}-01,note ${i},${i % 10 < 5 ? 'no' : 'yes'}`,
  );
  const table = tableOf(`x,level,day,note,won\n${lines.join('\n')}\n`);
  const fitted = fit(
    table,
    'won',
    'binary',
    'tree',
    { depth: 2 },
    { features: ['x', 'level', 'day', 'note'] },
  );

  it('follows levels of a category, and dates in days; single rows beside their mean', () => {
    const byLevel = dependenceOf(fitted, table, all(table), ['level'], null, 1);
    expect(byLevel.axes).toEqual([{ column: 'level', kind: 'category', values: ['a', 'b', 'c'] }]);
    const [axis] = dependenceOf(fitted, table, all(table), ['day'], 'yes', 1).axes;
    expect(axis?.values).toHaveLength(9);
    expect(axis?.values[0]).toBe(Date.UTC(2026, 0, 1) / 86_400_000);
    const byX = dependenceOf(fitted, table, all(table), ['x'], null, 1);
    expect(byX).toMatchObject({ label: 'yes', rowCount: 50 });
    expect(byX.rows).toHaveLength(40);
    byX.rows.forEach((row) => expect(row).toEqual([0, 0, 0, 0, 0, 1, 1, 1, 1, 1]));
  });

  it('of one class is what is left of the other', () => {
    const [yes, no] = ['yes', 'no'].map((label) => dependenceOf(fitted, table, all(table), ['x'], label, 1));
    yes?.mean.forEach((value, i) => expect(value + at(no?.mean ?? [], i)).toBeCloseTo(1, 12));
  });

  it.each([
    [['note'], null, 'note holds texts', 'column'],
    [['x', 'note'], null, 'note holds texts', 'second'],
    [['x', 'x'], null, 'two different columns', 'second'],
    [['won'], null, 'does not use won', 'column'],
    [['x'], 'maybe', 'No class is called “maybe”', 'label'],
  ] as const)('says what is wrong with %j of %s', (columns, label, message, field) => {
    let problem: unknown;
    try {
      dependenceOf(fitted, table, all(table), columns, label, 1);
    } catch (error) {
      problem = error;
    }
    expect(problem).toMatchObject({ code: 'dependence', place: { field } });
    expect(String(problem)).toContain(message);
  });
});
