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

/** Marks to two places, halves up. */
export const rounded = (marks: number): number => Math.round(marks * 100 + 1e-9) / 100;

/**
 * Marks for checks: equal shares of those that could be judged, or all or nothing.
 *
 * @param faults conditions that are not kept: with one of them there are no marks, whatever the checks say
 */
export function marksForChecks(
  checks: readonly Check[],
  marks: number,
  how: 'each' | 'all',
  faults: readonly Check[] = [],
): Marked {
  const judged = checks.filter(({ outcome }) => outcome !== 'unsure');
  const held = judged.filter(({ outcome }) => outcome === 'holds').length;
  const share = judged.length === 0 ? 0 : marks / judged.length;
  const earned = (check: Check) => faults.length === 0 && check.outcome === 'holds';
  return {
    judged: [
      ...faults.map((check): Judgement => ({ check, marks: 0, outOf: 0 })),
      ...checks.map((check): Judgement => ({
        check,
        marks: rounded(earned(check) ? share : 0),
        outOf: rounded(check.outcome === 'unsure' ? 0 : share),
      })),
    ],
    marks:
      faults.length > 0 || held === 0 || (how === 'all' && held < judged.length)
        ? 0
        : rounded(how === 'all' ? marks : share * held),
    scored: null,
  };
}
