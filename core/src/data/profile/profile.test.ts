import { describe, expect, it } from '@jest/globals';
import { iris, tableOf } from '../../../test/files.js';
import { profileTable } from './profile.js';

describe('column summaries', () => {
  it('of iris are those of R 4.2 (summary and sd of sepal length; from memory, widely published)', () => {
    const [sepal] = profileTable(iris());
    expect(sepal?.summary).toMatchObject({ min: 4.3, q1: 5.1, median: 5.8, q3: 6.4, max: 7.9 });
    expect(sepal?.summary?.mean).toBeCloseTo(5.843333, 6);
    expect(sepal?.summary?.sd).toBeCloseTo(0.8280661, 7);
    expect(sepal?.distinct).toBe(35);
  });

  it.each([
    ['sepal_length', 0.3149109566369728, -0.5520640413156395, 0.828066127977863],
    ['sepal_width', 0.31896566471359966, 0.2282490424681929, 0.4358662849366982],
    ['petal_length', -0.27488417975101276, -1.4021034155217518, 1.7652982332594662],
    ['petal_width', -0.10296674764898116, -1.340603996612646, 0.7622376689603465],
  ])(
    'of iris, %s: skewness, kurtosis and deviation as pandas 1.5.3 gives them',
    (name, skewness, kurtosis, sd) => {
      const summary = profileTable(iris()).find((column) => column.name === name)?.summary;
      expect(summary?.skewness).toBeCloseTo(skewness, 10);
      expect(summary?.kurtosis).toBeCloseTo(kurtosis, 10);
      expect(summary?.sd).toBeCloseTo(sd, 12);
    },
  );

  it('of a constant, or of too few values, have no skewness and no kurtosis', () => {
    const [constant, three] = profileTable(tableOf('c,x\n5,1\n5,2\n5,4\n5,\n'));
    expect(constant?.summary).toMatchObject({ sd: 0, skewness: null, kurtosis: null });
    expect(three?.summary?.skewness).toBeCloseTo(0.9352195295828235, 12);
    expect(three?.summary?.kurtosis).toBeNull();
  });

  it('lose no digits where all values share a large part', () => {
    // NIST StRD, NumAcc4: mean 10000000.2, standard deviation 0.1 (certified; from memory).
    const values = [
      10000000.2,
      ...Array.from({ length: 1000 }, (_, i) => (i % 2 === 0 ? 10000000.1 : 10000000.3)),
    ];
    const [column] = profileTable(tableOf(`x\n${values.join('\n')}\n`));
    expect(column?.summary?.mean).toBeCloseTo(10000000.2, 8);
    expect(Math.abs((column?.summary?.sd ?? 0) - 0.1)).toBeLessThan(1e-8);
  });

  it('count missing cells and the most frequent values', () => {
    const [, kind] = profileTable(tableOf('id,kind\n1,log\n2,skep\n3,log\n4,\n'));
    expect(kind).toMatchObject({
      missing: 1,
      distinct: 2,
      summary: null,
      top: [
        { value: 'log', count: 2 },
        { value: 'skep', count: 1 },
      ],
    });
  });

  it('place every value in a bin', () => {
    for (const column of profileTable(iris())) {
      if (column.histogram) expect(column.histogram.counts.reduce((a, b) => a + b, 0)).toBe(150);
    }
  });

  it('of a column without a value have no figures', () => {
    const [, empty] = profileTable(tableOf('id,x\n1,\n2,NA\n'));
    expect(empty).toMatchObject({ missing: 2, distinct: 0, summary: null, histogram: null });
  });
});
