import { describe, expect, it } from '@jest/globals';
import { iris, tableOf } from '../../test/files.js';
import { profileTable } from './profile.js';

describe('column summaries', () => {
  it('of iris are those of R 4.2 (summary and sd of sepal length; from memory, widely published)', () => {
    const [sepal] = profileTable(iris());
    expect(sepal?.summary).toMatchObject({ min: 4.3, q1: 5.1, median: 5.8, q3: 6.4, max: 7.9 });
    expect(sepal?.summary?.mean).toBeCloseTo(5.843333, 6);
    expect(sepal?.summary?.sd).toBeCloseTo(0.8280661, 7);
    expect(sepal?.distinct).toBe(35);
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
