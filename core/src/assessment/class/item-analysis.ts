import { pearson } from '../../data/profile/association.js';
import { normalHalfWidth } from '../../foundation/statistics/distributions.js';

/** How hard a question was for a class, and whether who does well elsewhere does well in it. */
export interface ItemAnalysis {
  /** Students who answered the question. */
  readonly answered: number;
  /** Students with marks for any question: the figures are of these, and what one of them did not answer earned nothing. */
  readonly students: number;
  /** Mean share of the marks, from 0 to 1: the difficulty of classical test theory. Null where nobody has marks. */
  readonly share: number | null;
  /**
   * Correlation of the marks with the sum of those for the other questions, with a 95 % interval. Null of a single
   * question, of fewer than `FEWEST` students, and where one of the two is the same for all.
   */
  readonly discrimination: { readonly value: number; readonly low: number; readonly high: number } | null;
}

/** Students below whom no correlation is said: its interval would go from nearly none to nearly full. Common practice. */
export const FEWEST = 10;

/**
 * Difficulty and corrected discrimination of each question, by classical test theory.
 *
 * The correlation is Pearson's between a question and the rest, so that a question is not compared with itself (Henrysson,
 * “Correction of item-total correlations in item analysis”, Psychometrika 28, 1963; from memory); its interval is by
 * Fisher's transformation, which takes both to be normal and is therefore rough.
 *
 * @param marks for each student, for each question; null for one that has no marks
 * @param most marks for each question, above 0
 */
export function itemAnalysis(
  marks: readonly (readonly (number | null)[])[],
  most: readonly number[],
): ItemAnalysis[] {
  const counted = marks.filter((own) => own.some((one) => one !== null));
  const totals = counted.map((own) => own.reduce<number>((sum, one) => sum + (one ?? 0), 0));
  return most.map((outOf, question) => {
    const own = Float64Array.from(counted, (line) => line[question] ?? 0);
    const rest = own.map((one, i) => (totals[i] ?? 0) - one);
    return {
      answered: counted.filter((line) => (line[question] ?? null) !== null).length,
      students: counted.length,
      share: counted.length === 0 ? null : own.reduce((sum, one) => sum + one, 0) / counted.length / outOf,
      discrimination:
        most.length < 2 || counted.length < FEWEST ? null : withInterval(pearson(own, rest), own.length),
    };
  });
}

function withInterval(r: number | null, n: number): ItemAnalysis['discrimination'] {
  if (r === null) return null;
  const half = normalHalfWidth(0.95) / Math.sqrt(n - 3);
  const z = Math.atanh(r);
  return { value: r, low: Math.tanh(z - half), high: Math.tanh(z + half) };
}
