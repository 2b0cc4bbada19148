import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { seededRandom, shuffle } from './random.js';

describe('random numbers', () => {
  it('below n are the remainders of the bits, whatever n', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.integer({ min: 1, max: 2 ** 32 }),
          fc.integer({ min: 1, max: 50 }),
          fc.constantFrom(2 ** 31, 2 ** 32 - 1),
        ),
        fc.integer({ min: 0, max: 2 ** 31 - 1 }),
        (n, seed) => {
          const [one, two] = [seededRandom(seed, 'x'), seededRandom(seed, 'x')];
          const limit = 2 ** 32 - (2 ** 32 % n);
          for (let i = 0; i < 20; i++) {
            let bits = two.bits();
            while (bits >= limit) bits = two.bits();
            expect(one.below(n)).toBe(bits % n);
          }
        },
      ),
      { numRuns: 300 },
    );
  });

  it('of one seed and stream are the same, of another stream they are not', () => {
    const draw = (seed: number, stream: string) => {
      const random = seededRandom(seed, stream);
      return Array.from({ length: 5 }, () => random.bits());
    };
    expect(draw(7, 'a')).toEqual(draw(7, 'a'));
    expect(draw(7, 'a')).not.toEqual(draw(7, 'b'));
    expect(draw(7, 'a')).not.toEqual(draw(8, 'a'));
  });

  it('shuffle every order equally often', () => {
    const counts = new Map<string, number>();
    const random = seededRandom(1);
    for (let i = 0; i < 12_000; i++) {
      const order = shuffle([0, 1, 2, 3], random).join('');
      counts.set(order, (counts.get(order) ?? 0) + 1);
    }
    // 24 orders of 500 each, standard deviation 22.
    expect(counts.size).toBe(24);
    for (const count of counts.values()) expect(Math.abs(count - 500)).toBeLessThan(5 * 22);
  });
});
