import { describe, expect, it } from '@jest/globals';
import { createHmac } from 'node:crypto';
import { secretOf, seedsOf } from '../../../test/secrets.js';
import { seededRandom, shuffle } from './random.js';
import { keyedRandom, type Purpose } from './secret.js';

const bitsOf = (secret = secretOf(1), purpose: Purpose = { what: 'order' }, n = 20) => {
  const random = keyedRandom(secret, purpose);
  return Array.from({ length: n }, () => random.bits());
};

describe('random numbers from a secret', () => {
  it('are those of HMAC-SHA-256 in counter mode, as Node.js computes it with OpenSSL', () => {
    const secret = secretOf(7);
    const label = JSON.stringify(['draw', 'q2', 'somebody', 3]);
    const key = createHmac('sha256', secret.bytes).update(label).digest();
    const blocks = [0, 1, 2].map((block) => {
      const counter = Buffer.alloc(8);
      counter.writeUInt32LE(block, 4);
      return createHmac('sha256', key).update(counter).digest();
    });
    const expected = blocks.flatMap((block) =>
      Array.from({ length: 8 }, (_, i) => block.readUInt32LE(4 * i)),
    );
    const purpose = { what: 'draw', question: 'q2', person: 'somebody', number: 3 };
    expect(bitsOf(secret, purpose, 24)).toEqual(expected);
  });

  it('are the same each time, and others for another secret or anything else in the purpose', () => {
    expect(bitsOf()).toEqual(bitsOf());
    const purposes: Purpose[] = [
      { what: 'order' },
      { what: 'orders' },
      { what: 'order', question: 'q1' },
      { what: 'order', person: 'q1' },
      { what: 'order', question: 'q1', person: 'a' },
      { what: 'order', question: 'q1a' },
      { what: 'order', number: 0 },
    ];
    const all = [...purposes.map((purpose) => bitsOf(secretOf(1), purpose)), bitsOf(secretOf(2))];
    expect(new Set(all.map(String)).size).toBe(all.length);
  });

  it('are spread evenly: each of 256 bytes equally often, within five deviations', () => {
    const counts = new Float64Array(256);
    for (const bits of bitsOf(secretOf(3), { what: 'bytes' }, 64_000))
      for (let byte = 0; byte < 4; byte++)
        counts[(bits >>> (8 * byte)) & 255] = (counts[(bits >>> (8 * byte)) & 255] ?? 0) + 1;
    const mean = 1000;
    for (const count of counts) expect(Math.abs(count - mean)).toBeLessThan(5 * Math.sqrt(mean));
  });

  it('of an exercise from before there were secrets are those that its seeds gave', () => {
    const own = keyedRandom(seedsOf(5, 9), { what: 'draw', question: 'q1', person: 'ada', number: 2 });
    expect(own.bits()).toBe(seededRandom(5, 'draw 2 ada').bits());
    const pack = keyedRandom(seedsOf(5, 9), { what: 'held-out order' });
    expect(pack.bits()).toBe(seededRandom(9, 'held-out order').bits());
  });
});

describe('a search for the seed behind an order', () => {
  it('that found it among the first 100,000 seeds finds nothing where there is a secret', () => {
    const order = (random: ReturnType<typeof seededRandom>) =>
      shuffle(
        Array.from({ length: 40 }, (_, i) => i),
        random,
      ).join();
    const search = (wanted: string) => {
      for (let seed = 0; seed < 100_000; seed++)
        if (order(seededRandom(seed, 'held-out order')) === wanted) return seed;
      return null;
    };
    expect(search(order(seededRandom(54_321, 'held-out order')))).toBe(54_321);
    expect(search(order(keyedRandom(secretOf(54_321), { what: 'held-out order' })))).toBeNull();
  });
});
