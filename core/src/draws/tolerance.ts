import { kindIn, type Planned, type SentenceKind } from '../sentence/sentence.js';
import type { Parameters, ValuesOf } from '../sentence/parameter.js';
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

const toleranceKind = <const P extends Parameters>(kind: ToleranceKind<P>): ToleranceKind => kind;

export const TOLERANCE_KINDS: readonly ToleranceKind[] = [
  toleranceKind({
    key: 'digits',
    title: 'to the digits typed',
    about:
      'What is typed is right where the key, rounded to as many decimals, is the same; so many decimals are needed at least, except of whole numbers.',
    parameters: {
      decimals: { type: 'number', label: 'decimals at least', min: 0, max: 10, step: 1, start: 3 },
    },
    sentence: () => 'Accept what is right to the digits typed, at least {decimals} decimals.',
    half({ decimals }, key, typed) {
      const needed = Number.isInteger(key) ? 0 : decimals;
      // A number that is exact with fewer decimals needs no idle zeros.
      const isExact = Math.abs(typed.value - key) <= 1e-12 * Math.max(1, Math.abs(key));
      if (typed.decimals < needed && !isExact) return { why: `at least ${needed} decimals are asked for` };
      return typed.unit / 2;
    },
  }),
  toleranceKind({
    key: 'absolute',
    title: 'within a distance',
    about: 'What is typed may lie so far from the key, either way.',
    parameters: { within: { type: 'number', label: 'distance', min: 0, start: 0.005 } },
    sentence: () => 'Accept what lies within {within} of the key.',
    half: ({ within }) => within,
  }),
  toleranceKind({
    key: 'relative',
    title: 'within a share of the key',
    about: 'What is typed may lie off the key by a percentage of it, either way.',
    parameters: { percent: { type: 'number', label: 'share', unit: '%', min: 0, max: 100, start: 1 } },
    sentence: () => 'Accept what lies within {percent} of the key.',
    half: ({ percent }, key) => (Math.abs(key) * percent) / 100,
  }),
];

/** @throws SieveError `plan-kind` */
export const toleranceKindOf = (plan: Pick<Planned, 'kind'>): ToleranceKind =>
  kindIn(TOLERANCE_KINDS, plan.kind, 'tolerance');

/** A little more than what doubles lose on the way, so that a number on the very edge is taken. */
const EDGE = 1e-9;

export type Verdict = { readonly right: boolean; readonly why: string | null };

/** Whether a typed number is taken for a key. */
export function accepts(plan: Planned, key: number, typed: Typed): Verdict {
  const kind = toleranceKindOf(plan);
  const half = kind.half(plan.values, key, typed);
  if (typeof half !== 'number') return { right: false, why: half.why };
  const slack = EDGE * Math.max(1, Math.abs(key));
  return { right: Math.abs(typed.value - key) <= half + slack, why: null };
}
