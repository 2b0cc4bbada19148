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
 * @param partly of a check that fails the share of its marks that it earns all the same
 * @param faults conditions that are not kept: with one of them there are no marks, whatever the checks say
 */
export function marksForChecks(
  checks: readonly Check[],
  marks: number,
  how: 'each' | 'all',
  faults: readonly Check[] = [],
  partly: ReadonlyMap<string, number> = new Map(),
): Marked {
  const judged = checks.filter(({ outcome }) => outcome !== 'unsure');
  const held = judged.filter(({ outcome }) => outcome === 'holds').length;
  const share = judged.length === 0 ? 0 : marks / judged.length;
  const shareOf = (check: Check) => (check.outcome === 'holds' ? 1 : (partly.get(check.id) ?? 0));
  const earned = judged.reduce((sum, check) => sum + shareOf(check), 0);
  return {
    judged: [
      ...faults.map((check): Judgement => ({ check, marks: 0, outOf: 0 })),
      ...checks.map((check): Judgement => ({
        check,
        marks: rounded(faults.length > 0 || check.outcome === 'unsure' ? 0 : share * shareOf(check)),
        outOf: rounded(check.outcome === 'unsure' ? 0 : share),
      })),
    ],
    marks:
      faults.length > 0 || earned === 0 || (how === 'all' && held < judged.length)
        ? 0
        : rounded(how === 'all' ? marks : share * earned),
    scored: null,
  };
}
