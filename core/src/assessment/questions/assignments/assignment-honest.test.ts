import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { at, indices } from '../../../foundation/numbers.js';
import { seededRandom } from '../../../foundation/random/random.js';
import { sizesOf } from './assignment-figures.js';
import {
  honestAssignment,
  ownAssignment,
  timeRanks,
  unitsOf,
  type AssignmentPlan,
} from './assignment-honest.js';
import { boundsOf } from './honest-rate.js';

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

describe('ranks of times', () => {
  it('are those of a sort, with equal times alike and rows without a time first', () => {
    expect([...timeRanks(Float64Array.of(5, NaN, -2, 5, 0))]).toEqual([3, 0, 1, 3, 2]);
  });

  it('put every honest part after the one before it, whichever of equal times comes first', () => {
    const times = Float64Array.from({ length: 60 }, (_, row) => (row * 37) % 7);
    const plan: AssignmentPlan = {
      rows: 60,
      shares: [0.5, 0.3, 0.2],
      isFolds: false,
      strata: null,
      units: null,
      time: timeRanks(times),
    };
    const random = seededRandom(4, 'times');
    const all = Array.from({ length: 20 }, () => honestAssignment(plan, random));
    for (const assigned of all) {
      expect(sizesOf(assigned, 3)).toEqual([30, 18, 12]);
      for (const part of [0, 1]) {
        const of = (wanted: number) => [...times].filter((_, row) => assigned[row] === wanted);
        expect(Math.max(...of(part))).toBeLessThanOrEqual(Math.min(...of(part + 1)));
      }
    }
    // Rows of one time are cut at random.
    expect(new Set(all.map(String)).size).toBeGreaterThan(10);
  });
});
