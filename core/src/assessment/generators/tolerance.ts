import { kindIn, type Plan, type SentenceKind } from '../../data/sentence/sentence.js';
import type { Parameters, ValuesOf } from '../../data/sentence/parameter.js';
import type { Typed } from './typed.js';

/** When a typed number is taken for a figure. */
export interface ToleranceKind<P extends Parameters = Parameters> extends SentenceKind<P> {
  /**
   * Half the width of what is accepted around the key.
   *
   * @returns null where it says with `why` that the number was not typed exactly enough
   */
  half(values: ValuesOf<P>, key: number, typed: Typed): number | { readonly why: string };
}

/** A little more than what doubles lose on the way, as a share, so that a number on the very edge is accepted. */
const EDGE = 1e-9;

const toleranceKind = <const P extends Parameters>(kind: ToleranceKind<P>): ToleranceKind => kind;

/** Significant digits of a key that are asked for at least, so that 0 is no answer to a small one. */
const FEWEST_DIGITS = 2;

/** The step of the last of a number's first significant digits: of 0.0213 and two digits 0.001. */
const stepOf = (value: number, digits: number): number =>
  10 ** (Math.floor(Math.log10(Math.abs(value))) - digits + 1);

/** The coarsest step to which a key may be typed. */
function coarsestStep(key: number, decimals: number): number {
  if (Number.isInteger(key)) return 1;
  return Math.min(10 ** -decimals, stepOf(key, FEWEST_DIGITS));
}

export const TOLERANCE_KINDS: readonly ToleranceKind[] = [
  toleranceKind({
    key: 'digits',
    title: 'to the digits typed',
    about:
      'What is typed is right where the key, rounded to as many decimals, is the same; so many decimals are needed at least, and two significant digits of a small key. A whole number is needed in full.',
    parameters: {
      decimals: { type: 'number', label: 'decimals at least', min: 0, max: 10, step: 1, start: 3 },
    },
    sentence: () => 'Accept what is right to the digits typed, at least {decimals} decimals.',
    half({ decimals }, key, typed) {
      const step = coarsestStep(key, decimals);
      // A number that is exact with fewer decimals needs no zeros after it.
      if (Math.abs(typed.value - key) <= EDGE * Math.abs(key)) return step / 2;
      // 10 ** -3 and 0.001 may differ in the last bit.
      if (typed.unit > step * (1 + EDGE))
        return {
          why: Number.isInteger(key)
            ? 'every digit of a whole number is asked for'
            : typed.decimals < decimals
              ? `at least ${decimals} decimals are asked for`
              : `at least ${FEWEST_DIGITS} significant digits are asked for`,
        };
      return typed.unit / 2;
    },
  }),
  toleranceKind({
    key: 'absolute',
    title: 'within a distance',
    about: 'What is typed may lie so far from the key, either way, and never by more than half the key.',
    parameters: { within: { type: 'number', label: 'distance', min: 0, start: 0.005 } },
    sentence: () => 'Accept what lies within {within} of the key.',
    half: ({ within }, key) => (key === 0 ? within : Math.min(within, Math.abs(key) / 2)),
  }),
  toleranceKind({
    key: 'relative',
    title: 'within a share of the key',
    about: 'What is typed may lie off the key by a percentage of it, either way.',
    parameters: { percent: { type: 'number', label: 'share', unit: '%', min: 0, max: 50, start: 1 } },
    sentence: () => 'Accept what lies within {percent} of the key.',
    half: ({ percent }, key) => (Math.abs(key) * Math.min(percent, 50)) / 100,
  }),
];

/** @throws SieveError `plan-kind` */
export const toleranceKindOf = (plan: Pick<Plan, 'kind'>): ToleranceKind =>
  kindIn(TOLERANCE_KINDS, plan.kind, 'tolerance');

export type Verdict = { readonly right: boolean; readonly why: string | null };

/** Whether a typed number is taken for a key. */
export function accepts(plan: Plan, key: number, typed: Typed): Verdict {
  const kind = toleranceKindOf(plan);
  const half = kind.half(plan.values, key, typed);
  if (typeof half !== 'number') return { right: false, why: half.why };
  const slack = EDGE * Math.max(half, Math.abs(key));
  return { right: Math.abs(typed.value - key) <= half + slack, why: null };
}
