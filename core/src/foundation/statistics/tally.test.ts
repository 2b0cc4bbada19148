import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { quantile } from '../numbers.js';
import { seededRandom } from '../random/random.js';
import { quantileOf, sortedValues, tallyOf } from './tally.js';

/** Values drawn from a few, or nearly all distinct; of more rows than are sorted at once, or fewer; some missing. */
const column = fc
  .record({
    seed: fc.integer({ min: 0, max: 1e6 }),
    rows: fc.constantFrom(0, 1, 5, 300, 9_000, 40_000),
    distinct: fc.constantFrom(1, 3, 500, 1e9),
    missing: fc.constantFrom(0, 0.1, 1),
  })
  .map(({ seed, rows, distinct, missing }) => {
    const random = seededRandom(seed);
    return Float64Array.from({ length: rows }, () =>
      random.unit() < missing ? NaN : (random.below(distinct) - Math.floor(distinct / 2)) / 8,
    );
  });

describe('the values of a column in order', () => {
  it('are those that sorting gives, however many are distinct', () => {
    fc.assert(
      fc.property(column, (values) => {
        const expected = values.filter((value) => !Number.isNaN(value)).sort((a, b) => a - b);
        expect(sortedValues(values)).toEqual(expected.map((value) => value + 0));
      }),
      { numRuns: 60 },
    );
  });

  it('are tallied: every present value once, ascending, with its count', () => {
    fc.assert(
      fc.property(column, (values) => {
        const tally = tallyOf(values);
        const expected = new Map<number, number>();
        for (const value of values)
          if (!Number.isNaN(value)) expected.set(value + 0, (expected.get(value + 0) ?? 0) + 1);
        const ascending = [...expected].sort(([a], [b]) => a - b);
        expect([...tally.values]).toEqual(ascending.map(([value]) => value));
        expect([...tally.counts]).toEqual(ascending.map(([, count]) => count));
        expect(tally.total).toBe(ascending.reduce((sum, [, count]) => sum + count, 0));
      }),
      { numRuns: 60 },
    );
  });

  it('have the same quantiles tallied as in order', () => {
    fc.assert(
      fc.property(column, fc.double({ min: 0, max: 1, noNaN: true }), (values, p) => {
        const sorted = sortedValues(values);
        fc.pre(sorted.length > 0);
        expect(quantileOf(tallyOf(values), p)).toBe(quantile(sorted, p));
      }),
      { numRuns: 60 },
    );
  });
});
