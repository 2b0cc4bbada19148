import { describe, expect, it } from '@jest/globals';
import { distances } from './assignment-figures.js';

describe('the distance of a part from all rows', () => {
  it('is that of Kolmogorov and Smirnov: the largest gap between the shares up to a number', () => {
    // By hand: up to 2 lie all rows of the first part and half of all, none of the second.
    expect(distances(Int32Array.of(0, 0, 1, 1), 2, Float64Array.of(1, 2, 3, 4))).toEqual([0.5, 0.5]);
    // Up to 1 lie 2/3 of the first part, 1/2 of all, 1/3 of the second; equal numbers are passed together.
    const [first = 0, second = 0] = distances(
      Int32Array.of(0, 1, 0, 0, 1, 1),
      2,
      Float64Array.of(1, 1, 1, 2, 2, 2),
    );
    expect(first).toBeCloseTo(1 / 6, 12);
    expect(second).toBeCloseTo(1 / 6, 12);
  });

  it('leaves rows without a number out, and is 0 for a part without rows', () => {
    expect(distances(Int32Array.of(0, 0, 0), 2, Float64Array.of(5, NaN, 7))).toEqual([0, 0]);
  });
});
