import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { labelsOf } from '../table/labels.js';
import { columnNamed, isCoded, type Column } from '../table/table.js';
import { correlationRatio, cramersV, pearson, spearman } from './association.js';
import { associationOf, correlations } from './correlations.js';
import { ranks } from './ranks.js';
import { targetByValue } from './target-by-value.js';

const numbers = (column: Column): Float64Array => (isCoded(column) ? new Float64Array() : column.values);
const values = fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 3, maxLength: 40 });

describe('correlations', () => {
  it('of diabetes, body mass index and progression, are those of scipy 1.10.1', () => {
    const [bmi, target] = ['bmi', 'target'].map((name) => numbers(columnNamed(diabetes(), name)));
    expect(pearson(bmi ?? new Float64Array(), target ?? new Float64Array())).toBeCloseTo(
      0.5864501344746887,
      10,
    );
    expect(spearman(bmi ?? new Float64Array(), target ?? new Float64Array())).toBeCloseTo(
      0.5613820101065616,
      10,
    );
  });

  it('of iris by species are those of scipy 1.10.1 (contingency.association) and of sums of squares in numpy', () => {
    const table = iris();
    const species = labelsOf(columnNamed(table, 'target'));
    const long = numbers(columnNamed(table, 'sepal_length')).map((value) => (value > 5.8 ? 1 : 0));
    expect(cramersV(species, { labels: ['no', 'yes'], codes: Int32Array.from(long) })).toBeCloseTo(
      0.7240757655699535,
      12,
    );
    expect(correlationRatio(species, numbers(columnNamed(table, 'petal_length')))).toBeCloseTo(
      0.9702431236846608,
      12,
    );
  });

  it('do not change with scale and place, and ranks not under any monotone change', () => {
    fc.assert(
      fc.property(values, fc.integer({ min: 1, max: 9 }), (list, scale) => {
        const x = Float64Array.from(list);
        const y = Float64Array.from(list, (value, i) => value + ((i * 7) % 5));
        const moved = y.map((value) => scale * value - 3);
        if (pearson(x, y) === null) expect(pearson(x, moved)).toBeNull();
        else expect(pearson(x, moved)).toBeCloseTo(pearson(x, y) ?? NaN, 9);
        expect(ranks(y.map((value) => value ** 3))).toEqual(ranks(y));
      }),
    );
  });

  it('leave out rows in which a value is missing, and are null without spread', () => {
    expect(pearson(Float64Array.of(1, 2, NaN, 4), Float64Array.of(2, 4, 9, 8))).toBeCloseTo(1, 12);
    expect(pearson(Float64Array.of(1, 1, 1), Float64Array.of(1, 2, 3))).toBeNull();
    expect(
      cramersV(
        { labels: ['a'], codes: Int32Array.of(0, 0) },
        { labels: ['x', 'y'], codes: Int32Array.of(0, 1) },
      ),
    ).toBeNull();
  });

  it('share the ranks of ties', () => {
    expect(Array.from(ranks(Float64Array.of(10, 20, 10, NaN, 30)))).toEqual([1.5, 3, 1.5, NaN, 4]);
  });

  it('make a symmetric matrix of the columns of numbers, and choose the measure by the kinds of two columns', () => {
    const table = tableOf('a,b,c,d\n1,4,x,p\n2,3,y,q\n3,1,x,p\n4,2,y,q\n');
    const matrix = correlations(table);
    expect(matrix.columns).toEqual(['a', 'b']);
    expect(matrix.values).toEqual([
      [1, -0.8],
      [-0.8, 1],
    ]);
    const measure = (a: string, b: string) => associationOf(columnNamed(table, a), columnNamed(table, b));
    expect(measure('a', 'b')).toEqual({ measure: 'Spearman', value: -0.8 });
    expect(measure('c', 'd')).toEqual({ measure: 'Cramér’s V', value: 1 });
    expect(measure('a', 'c')?.measure).toBe('correlation ratio');
  });
});

describe('the target by the values of a feature', () => {
  it('is a rate with Wilson’s interval for classes', () => {
    const table = tableOf('x,y\na,yes\na,no\na,yes\nb,no\n,yes\nb,\n');
    const roles = { target: 'y', task: 'binary', positive: 'yes' } as const;
    const { label, values } = targetByValue(table, roles, 'x');
    const [a, b, none, ...others] = values;
    expect(label).toBe(roles.positive);
    expect(a).toMatchObject({ value: 'a', rows: 3, figure: 2 / 3 });
    // Wilson for 2 of 3 (statsmodels 0.13, proportion_confint).
    expect(a?.low).toBeCloseTo(0.2076596, 6);
    expect(a?.high).toBeCloseTo(0.9385081, 6);
    expect(b).toMatchObject({ value: 'b', rows: 1, figure: 0 });
    expect(none).toMatchObject({ value: null, from: null, rows: 1, figure: 1 });
    expect(others).toEqual([]);
  });

  it('is a mean with Student’s interval for numbers, by tenths of a column of many values', () => {
    const roles = { target: 'target', task: 'regression', positive: null } as const;
    const { values: tenths } = targetByValue(diabetes(), roles, 'bmi');
    expect(tenths).toHaveLength(10);
    // Bounds lie between values: they are shown without the noise of the last digits.
    const ages = tableOf(
      `x,target\n${[0, 1, 2, 3, 4, 5, 6, 7, 7, 7, 7, 8, 9, 10, 11, 12, 13, 14].map((x) => `${x},${x}`).join('\n')}\n`,
    );
    for (const { value } of targetByValue(ages, roles, 'x').values)
      expect(value).toMatch(/^(above )?[\d.]{1,5} to [\d.]{1,5}$/);
    expect(tenths.reduce((n, run) => n + run.rows, 0)).toBe(442);
    expect((tenths[9]?.figure ?? 0) > (tenths[0]?.figure ?? 0)).toBe(true);
    // Mean 2 and t(0.975, 2) · 1 / √3 of the values 1, 2, 3.
    const { label, values } = targetByValue(tableOf('x,target\na,1\na,2\na,3\n,9\n'), roles, 'x');
    const [only, gap] = values;
    expect(label).toBeNull();
    expect(gap).toMatchObject({ value: null, rows: 1, figure: 9, low: null });
    expect([only?.figure, (only?.high ?? 0) - 2]).toEqual([
      2,
      expect.closeTo(4.302652729911275 / Math.sqrt(3), 9),
    ]);
  });
});
