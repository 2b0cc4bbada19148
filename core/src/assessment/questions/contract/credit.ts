import type { Check } from '../../../foundation/check.js';
import type { Judgement, Marked } from './answer.js';

/** Of a condition without which there are no marks: whether the work is there. */
export const WORK = 'work';

/** Of a check that staff alone see: it compares, and proves nothing. */
export const EVIDENCE = 'evidence';

/** How checks come to marks. */
export const credit = {
  type: 'choice',
  label: 'how checks are marked',
  choices: [
    { value: 'each', text: 'each check earns its share' },
    { value: 'all', text: 'all checks or no marks' },
  ],
} as const;

/** What a check comes to that could not be judged. */
export const unjudged = {
  type: 'choice',
  label: 'checks that could not be judged',
  choices: [
    { value: 'left out', text: 'is left out' },
    { value: 'held', text: 'counts as held' },
  ],
} as const;

/** How the checks of a question come to marks, by the values of its sentence. */
export interface Credit {
  readonly credit: 'each' | 'all';
  readonly unjudged?: 'left out' | 'held';
}

/** Said to students where it matters; empty where such checks are left out. */
export const unjudgedWords = ({ unjudged }: Credit): string =>
  unjudged === 'held' ? '; what could not be judged counts as held' : '';

/** Marks to two places, halves up. */
export const rounded = (marks: number): number => Math.round(marks * 100 + 1e-9) / 100;

/**
 * Marks for checks: equal shares of those that count, or all or nothing. A check that could not be judged is left out, or
 * counts as held beside one that was judged.
 *
 * @param partly of a check that fails the share of its marks that it earns all the same
 * @param faults conditions that are not kept: with one of them there are no marks, whatever the checks say
 */
export function marksForChecks(
  checks: readonly Check[],
  marks: number,
  { credit: how, unjudged }: Credit,
  faults: readonly Check[] = [],
  partly: ReadonlyMap<string, number> = new Map(),
): Marked {
  const isJudged = checks.some(({ outcome }) => outcome !== 'unsure');
  const counts = ({ outcome, id }: Check) =>
    outcome !== 'unsure' || (unjudged === 'held' && isJudged && id !== EVIDENCE);
  const judged = checks.filter(counts);
  const holds = ({ outcome }: Check) => outcome === 'holds' || outcome === 'unsure';
  const held = judged.filter(holds).length;
  const share = judged.length === 0 ? 0 : marks / judged.length;
  const shareOf = (check: Check) => (holds(check) ? 1 : (partly.get(check.id) ?? 0));
  const earned = judged.reduce((sum, check) => sum + shareOf(check), 0);
  return {
    judged: [
      ...faults.map((check): Judgement => ({ check, marks: 0, outOf: 0 })),
      ...checks.map((check): Judgement => ({
        check,
        marks: rounded(faults.length > 0 || !counts(check) ? 0 : share * shareOf(check)),
        outOf: rounded(counts(check) ? share : 0),
      })),
    ],
    marks:
      faults.length > 0 || earned === 0 || (how === 'all' && held < judged.length)
        ? 0
        : rounded(how === 'all' ? marks : share * earned),
    scored: null,
  };
}
