import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { fnv1a } from './hash.js';

/** A source of randomness that is reproducible from its seed on every machine. */
export interface Random {
  /** Next 32 bits as an integer in 0 … 2^32 − 1. */
  bits(): number;
  /** Integer in 0 … n − 1, every value equally likely; n from 1 to 2^32. */
  below(n: number): number;
  /** Number in [0, 1) with 53 random bits. */
  unit(): number;
}

/** Seeds are whole numbers from 0 to this. */
export const LARGEST_SEED = 2 ** 31 - 1;

/**
 * A generator for a seed. Different purposes take different streams, so that, say, drawing feedback rows
 * with the seed of a split does not repeat the split's choices.
 *
 * The generator is xoroshiro128+ (Blackman and Vigna, 2018) in pure-rand's implementation; the distributions
 * over it are ours and are part of the promise that a seed gives the same rows in every later version.
 *
 * @param seed any 32-bit integer
 * @param stream name of the purpose
 */
export function seededRandom(seed: number, stream = ''): Random {
  const generator = xoroshiro128plus((seed ^ (stream === '' ? 0 : fnv1a(stream))) | 0);
  return randomFrom(() => generator.next() >>> 0);
}

/**
 * The distributions over a source of bits.
 *
 * @param bits next 32 bits as an integer in 0 … 2^32 − 1
 */
export function randomFrom(bits: () => number): Random {
  let lastN = 0;
  let limit = 0;
  return {
    bits,
    below(n) {
      // Values past the last whole multiple of n are drawn again, which keeps every remainder equally likely.
      if (n !== lastN) {
        lastN = n;
        limit = 0x100000000 - (0x100000000 % n);
      }
      let value = bits();
      while (value >= limit) value = bits();
      // The remainder; for integers below 2^32 the quotient of doubles never rounds up to a whole number.
      return value - Math.floor(value / n) * n;
    },
    unit: () => ((bits() >>> 5) * 0x4000000 + (bits() >>> 6)) / 0x20000000000000,
  };
}

/** Shuffles in place: Fisher and Yates, from the last position down (Knuth, TAOCP 2, algorithm 3.4.2 P). */
export function shuffle<T extends { [index: number]: number; length: number }>(items: T, random: Random): T {
  for (let last = items.length - 1; last > 0; last--) {
    const other = random.below(last + 1);
    const kept = items[last] ?? 0;
    items[last] = items[other] ?? 0;
    items[other] = kept;
  }
  return items;
}
