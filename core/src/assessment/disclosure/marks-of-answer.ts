import { marksLessLate } from '../policy/attempts.js';
import type { Result } from './result.js';

/** Marks that staff gave an answer in place of those that were found. */
export interface Adjustment {
  readonly marks: number;
  /** What its student reads of it. */
  readonly reason: string;
}

/** What an answer earns: what staff gave it, or else what was found less lateness; null where it could not be marked. */
export function marksOfAnswer(
  { marks }: Pick<Result, 'marks'>,
  latePercent: number,
  adjustment: Adjustment | null,
): number | null {
  if (marks === null) return null;
  return adjustment ? adjustment.marks : marksLessLate(marks, latePercent);
}

/**
 * What decides which submission counts where the best does: of predictions what their score on the feedback rows would
 * earn, so that nobody is marked for the luck of the final rows; less lateness. An adjusted submission stands by its marks.
 */
export function standingOf(
  { marks, standing }: Pick<Result, 'marks' | 'standing'>,
  latePercent: number,
  adjustment: Adjustment | null,
): number | null {
  return marksOfAnswer({ marks: standing ?? marks }, latePercent, adjustment);
}
