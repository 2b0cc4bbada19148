import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { testFile } from '../../../test/files.js';
import { at } from '../../foundation/numbers.js';
import { bestWeights } from './weights.js';

/** Computed by test/reference/combined.py with SciPy. */
const expected = JSON.parse(new TextDecoder().decode(testFile('reference/combined.json'))) as {
  weights: { products: number[][]; weights: number[] }[];
};

describe('the weights of a stack', () => {
  it.each(expected.weights)('are those of SciPy’s SLSQP: $weights', ({ products, weights }) => {
    const own = bestWeights(products);
    own.forEach((weight, i) => expect(weight).toBeCloseTo(at(weights, i), 5));
  });

  it('are beaten by no others', () => {
    const vectors = fc.array(
      fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 5, maxLength: 5 }),
      {
        minLength: 2,
        maxLength: 5,
      },
    );
    const dot = (a: readonly number[], b: readonly number[]) =>
      a.reduce((sum, x, i) => sum + x * at(b, i), 0);
    fc.assert(
      fc.property(vectors, fc.array(fc.nat(100), { minLength: 5, maxLength: 5 }), (errors, drawn) => {
        const products = errors.map((a) => errors.map((b) => dot(a, b)));
        const error = (w: readonly number[]) =>
          dot(
            w,
            products.map((row) => dot(row, w)),
          );
        const own = bestWeights(products);
        expect(own.every((weight) => weight >= 0)).toBe(true);
        expect(own.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
        const others = drawn.slice(0, errors.length).map((one) => one + 1e-9);
        const total = others.reduce((a, b) => a + b, 0);
        const scale = Math.max(1e-12, ...products.map((row, i) => at(row, i)));
        expect(error(own) / scale).toBeLessThanOrEqual(
          error(others.map((one) => one / total)) / scale + 1e-8,
        );
      }),
      { numRuns: 200 },
    );
  });

  it('members that say the same share nothing: the earlier counts alone', () => {
    expect(
      bestWeights([
        [2, 2, 3],
        [2, 2, 3],
        [3, 3, 9],
      ]),
    ).toEqual([1, 0, 0]);
  });
});
