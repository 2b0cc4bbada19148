import type { Check } from '../check/check.js';
import type { Judgement, Marked } from './question.js';

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
 * Marks for checks: equal shares, or all or nothing. A check that could not be judged takes nothing away.
 */
export function marksForChecks(checks: readonly Check[], marks: number, how: 'each' | 'all'): Marked {
  const held = checks.filter(({ outcome }) => outcome !== 'fails').length;
  const share = marks / checks.length;
  const judged = checks.map((check): Judgement => ({
    check,
    marks: rounded(check.outcome === 'fails' ? 0 : share),
    outOf: rounded(share),
  }));
  const all = held === checks.length;
  return {
    judged,
    marks: how === 'all' ? (all ? marks : 0) : rounded((marks * held) / checks.length),
    scored: null,
  };
}
