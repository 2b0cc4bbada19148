import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { at } from '../../foundation/numbers.js';
import { newPlan } from '../../data/sentence/sentence.js';
import { generate } from './generate.js';
import { accepts, TOLERANCE_KINDS } from './tolerance.js';
import { typedNumber } from './typed.js';
import { everything, byChance, by } from './fixture-of-tests.js';

describe('what is asked', () => {
  /** What follows from the other numbers of the text. */
  const DERIVED: Record<string, readonly string[]> = {
    confusion: ['fp', 'fn'],
    'roc-points': ['points'],
    summary: ['n'],
    'tree-split': ['nr', 'yr'],
  };

  it.each(byChance.map((kind) => [kind.key, kind] as const))(
    '%s has in its text every number that its keys need',
    (key, { text }) => {
      const { given } = generate(everything(key), by('a'));
      const missing = Object.keys(given).filter(
        (name) => !text.includes(`{${name}}`) && !(DERIVED[key] ?? []).includes(name),
      );
      expect(missing).toEqual([]);
    },
  );

  it('under a name with several usual definitions says which one is meant', () => {
    const conventions = new Map(
      byChance.flatMap(({ key }) =>
        generate(everything(key), by('a')).asked.map(({ name, convention }) => [name, convention] as const),
      ),
    );
    for (const name of [
      'standard deviation',
      'standard error',
      'lower quartile',
      'skewness',
      'mean error',
      'mean absolute percentage error',
      'McNemar p',
      'entropy of the node',
      'log loss',
      'Brier score',
      'average precision',
      'prior of survival',
    ])
      expect(conventions.get(name)).toEqual(expect.any(String));
    expect(conventions.get('accuracy')).toBeNull();
  });
});

describe('a tolerance', () => {
  const tolerance = (kind: string, values: Record<string, number> = {}) => ({
    kind,
    values: {
      ...newPlan(
        at(
          TOLERANCE_KINDS.filter(({ key }) => key === kind),
          0,
        ),
        [],
      ).values,
      ...values,
    },
  });
  const right = (plan: ReturnType<typeof tolerance>, key: number, text: string) => {
    const typed = typedNumber(text);
    return 'wrong' in typed ? typed.wrong : accepts(plan, key, typed).right;
  };

  it('to the digits typed takes what rounds to them, and no number that says too little', () => {
    const plan = tolerance('digits', { decimals: 3 });
    expect(right(plan, 2 / 3, '0.667')).toBe(true);
    expect(right(plan, 2 / 3, '66.67 %')).toBe(true);
    expect(right(plan, 2 / 3, '0.666')).toBe(false);
    expect(right(plan, 2 / 3, '0.67')).toBe(false);
    // A half may be rounded either way.
    expect(right(plan, 0.0625, '0.062')).toBe(true);
    expect(right(plan, 0.0625, '0.063')).toBe(true);
    expect(right(plan, 0.5, '0.5')).toBe(true);
    expect(right(plan, 320, '320')).toBe(true);
    expect(right(plan, 320, '3.2e2')).toBe(true);
  });

  it('asks for as much as the key needs: whole numbers in full, two significant digits of a small one', () => {
    const digits = tolerance('digits', { decimals: 3 });
    expect(['137', '137.0', '1.37e2', '0137'].map((text) => right(digits, 137, text))).toEqual(
      Array(4).fill(true),
    );
    expect(
      ['1e2', '1.4e2', '140', '0e9', '1e9', '136', '137.4'].map((text) => right(digits, 137, text)),
    ).toEqual(Array(7).fill(false));
    expect(
      ['0', '0.000', '0e9', '0.0004', '0.00043', '4.3e-4'].map((text) => right(digits, 0.000432, text)),
    ).toEqual([false, false, false, false, true, true]);
    expect(right(tolerance('absolute', { within: 0.005 }), 0.0004, '0')).toBe(false);
    expect(right(tolerance('relative', { percent: 100 }), 0.0004, '0')).toBe(false);
  });

  it('of every form takes no string that is further from the key than it says', () => {
    const spread = fc.oneof(
      fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.integer({ min: -5000, max: 5000 }),
      fc.double({ min: 1e-9, max: 1e-3, noNaN: true }),
    );
    const digit = fc.constantFrom('0', '1', '2', '3', '4', '5', '6', '7', '8', '9');
    const some = (max: number) =>
      fc.array(digit, { minLength: 0, maxLength: max }).map((all) => all.join(''));
    const odd = fc
      .tuple(
        fc.constantFrom('', '-', '+', '−'),
        some(12),
        fc.constantFrom('', '.'),
        some(12),
        fc.constantFrom('', 'e0', 'e9', 'E+12', 'e-12', 'e308', 'e-400'),
        fc.constantFrom('', ' %', '%'),
      )
      .map((all) => all.join(''));
    fc.assert(
      fc.property(spread, odd, fc.nat(20), (key, text, near) => {
        // Strings that are adversarial, and such as are written near the key.
        for (const one of [text, key.toExponential(near % 12), key.toFixed(near % 8), String(key)]) {
          const typed = typedNumber(one);
          if ('wrong' in typed) continue;
          const off = Math.abs(typed.value - key);
          const size = Math.max(Math.abs(key), Number.MIN_VALUE);
          const edge = 1 + 1e-8;
          // Half a step of two significant digits is at most a tenth of the key and half of it.
          if (accepts(tolerance('digits', { decimals: 3 }), key, typed).right)
            expect(off).toBeLessThanOrEqual(
              (Number.isInteger(key) ? 0.5 : Math.min(0.0005, 0.05 * size)) * edge + 1e-8 * size,
            );
          if (accepts(tolerance('absolute', { within: 0.005 }), key, typed).right)
            expect(off).toBeLessThanOrEqual(
              (key === 0 ? 0.005 : Math.min(0.005, size / 2)) * edge + 1e-8 * size,
            );
          if (accepts(tolerance('relative', { percent: 1 }), key, typed).right)
            expect(off).toBeLessThanOrEqual(0.01 * size * edge + 1e-8 * size);
        }
      }),
      { numRuns: 3000 },
    );
  });

  it('by a distance or a share of the key ends where it says, either way', () => {
    const distance = tolerance('absolute', { within: 0.005 });
    expect(['0.495', '0.505', '0.4949', '0.5051'].map((text) => right(distance, 0.5, text))).toEqual([
      true,
      true,
      false,
      false,
    ]);
    const share = tolerance('relative', { percent: 1 });
    expect(['-198', '-202', '-197.9', '202'].map((text) => right(share, -200, text))).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});
