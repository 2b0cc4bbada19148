import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { at, indices } from '../numbers.js';
import { seededRandom } from '../random/random.js';
import { sizesOf } from './assignment-figures.js';
import {
  boundsOf,
  honestAssignment,
  ownAssignment,
  unitsOf,
  type AssignmentPlan,
} from './assignment-honest.js';

describe('units that stay whole', () => {
  it('link rows of a group, repeated rows, and whatever these share', () => {
    // Rows 0 and 1 are of group 0, rows 1 and 4 repeat each other, row 2 has no group.
    const units = unitsOf(Int32Array.of(0, 0, -1, 1, 2), Int32Array.of(0, 1, 2, 3, 1));
    expect(units?.[0]).toBe(units?.[1]);
    expect(units?.[1]).toBe(units?.[4]);
    expect(new Set(units).size).toBe(3);
    expect(unitsOf(null, null)).toBeNull();
  });
});

describe('honest assignments', () => {
  const plan = (n: number, groups: number, isFolds: boolean): AssignmentPlan => ({
    rows: n,
    shares: isFolds ? [0.25, 0.25, 0.25, 0.25] : [0.7, 0.3],
    isFolds,
    strata: { column: 'y', labels: ['no', 'yes'], codes: indices(n).map((row) => row % 2), values: null },
    units:
      groups > 0
        ? unitsOf(
            indices(n).map((row) => row % groups),
            null,
          )
        : null,
    time: null,
  });

  it('keep units whole, and are off by no more than the bounds, but for a few at random', () => {
    const sizes = fc.integer({ min: 60, max: 300 });
    fc.assert(
      fc.property(sizes, fc.constantFrom(0, 8, 30), fc.boolean(), fc.nat(), (n, groups, isFolds, seed) => {
        const asked = plan(n, groups, isFolds);
        const bounds = boundsOf(asked);
        for (const make of [ownAssignment, honestAssignment]) {
          const assigned = make(asked, seededRandom(seed));
          const partOf = new Map<number, number>();
          asked.units?.forEach((unit, row) => {
            expect(partOf.get(unit) ?? at(assigned, row)).toBe(at(assigned, row));
            partOf.set(unit, at(assigned, row));
          });
        }
        const own = sizesOf(ownAssignment(asked, seededRandom(seed)), asked.shares.length);
        own.forEach((size, part) =>
          expect(Math.abs(size - at(asked.shares, part) * n)).toBeLessThanOrEqual(bounds.rows),
        );
      }),
      { numRuns: 30 },
    );
  });
});
