import { describe, expect, it } from '@jest/globals';
import { testFile } from '../../../../test/files.js';
import { generate } from '../../generators/generate.js';
import { by, everything, numbersIn } from '../../generators/fixture-of-tests.js';
import { typedNumber, type Typed } from '../../generators/typed.js';
import { claimedSlips } from '../../questions/values/claimed-slips.js';
import { VALUE_SLIPS } from './registry.js';

/** What mistakes give, by other libraries, from what the student is shown: see draws.py beside the file. */
interface Fixture {
  readonly draws: readonly {
    readonly kind: string;
    readonly who: string;
    readonly expected: Readonly<Record<string, number>>;
    readonly slips?: readonly { readonly slip: string; readonly figure: string; readonly value: number }[];
  }[];
}

const { draws } = JSON.parse(new TextDecoder().decode(testFile('reference/draws.json'))) as Fixture;
const cases = draws.flatMap(({ kind, who, expected, slips = [] }) =>
  slips.map((one) => ({ kind, who, right: expected[one.figure] ?? Number.NaN, ...one })),
);

function typed(value: number, decimals = 6): Typed {
  const read = typedNumber(value.toFixed(decimals));
  if ('wrong' in read) throw new Error(read.wrong);
  return read;
}

function asked(kind: string, who: string, figure: string) {
  const found = numbersIn(generate(everything(kind), by(who)).asked).find(({ name }) => name === figure);
  if (!found) throw new Error(`${figure} is not asked for`);
  return found;
}

describe('a mistake in computing a figure', () => {
  const told = cases.filter(
    // What a mistake gives may be right by chance, and a whole number is often hit by others.
    ({ value, right }) => Math.abs(value - right) > 1e-5 && !Number.isInteger(right),
  );

  it.each(told.map((one) => [one.slip, one.figure, one.kind, one.who, one] as const))(
    '%s in %s of %s for %s is named',
    (slip, figure, kind, who, { value }) => {
      expect(claimedSlips(asked(kind, who, figure), typed(value))).toContain(slip);
    },
  );

  it('is named in whole numbers that few others reach', () => {
    const fits = cases.filter(({ slip }) => slip === 'fits-added-not-multiplied');
    const named = fits.filter(({ kind, who, figure, slip, value }) =>
      claimedSlips(asked(kind, who, figure), typed(value, 0)).includes(slip),
    );
    expect(named.length).toBeGreaterThan(0);
  });

  it('covers every slip but those of models, which the keys’ tests have, and of choices among few', () => {
    const covered = new Set(cases.map(({ slip }) => slip));
    expect(VALUE_SLIPS.map(({ id }) => id).filter((id) => !covered.has(id))).toEqual([
      'training-rows',
      'best-for-one-standard-error',
      'penalty-mixing-exchanged',
      'penalty-other-scale',
    ]);
  });

  it('is never named where the answer is right, however it was rounded', () => {
    for (const { kind, who, expected } of draws)
      for (const [figure, value] of Object.entries(expected))
        for (const decimals of [2, 3, 4, 8])
          expect(claimedSlips(asked(kind, who, figure), typed(value, decimals))).toEqual([]);
  });
});
