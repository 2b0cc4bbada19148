import type { Check } from '../check/check.js';
import type { Interval } from '../metrics/interval.js';
import type { Result, ScoredRows } from './result.js';

export const FEEDBACK_POLICIES = ['after-return', 'rounded'] as const;
/** What students see of their scores while an exercise is open: nothing, or the score on feedback rows, rounded. */
export type FeedbackPolicy = (typeof FEEDBACK_POLICIES)[number];

/** Share of the held-out rows whose score may be shown while an exercise is open, in percent. */
export const feedbackShare = (policy: FeedbackPolicy): number => (policy === 'rounded' ? 50 : 0);

/** What a student receives for a submission. */
export interface Disclosed {
  readonly checks: readonly Check[];
  readonly holds: boolean;
  readonly metric: string;
  /** Null where nothing is shown; `rounded` says that it was. */
  readonly feedback: {
    readonly rows: number;
    readonly score: number | null;
    readonly rounded: boolean;
  } | null;
  /** Only once the exercise is returned. */
  readonly final: {
    readonly rows: number;
    readonly score: number | null;
    readonly interval: Interval;
    readonly grid: ScoredRows['grid'];
    readonly marks: number;
    readonly outOf: number;
  } | null;
}

/**
 * The one place that decides what of a result a student receives. Never a truth or a residual of a single row.
 *
 * @param returned whether the instructor has returned the exercise
 */
export function disclose(result: Result, policy: FeedbackPolicy, returned: boolean): Disclosed {
  const { feedback, final } = result;
  const show = feedback !== null && (returned || policy === 'rounded');
  return {
    checks: result.checks,
    holds: result.holds,
    metric: result.metric,
    feedback: show
      ? {
          rows: feedback.rows,
          score: returned ? feedback.score.value : roundedTo(feedback.score.value, feedback.rows),
          rounded: !returned,
        }
      : null,
    final:
      returned && final
        ? {
            rows: final.rows,
            score: final.score.value,
            interval: final.interval,
            grid: final.grid,
            marks: result.marks ?? 0,
            outOf: result.outOf,
          }
        : null,
  };
}

/**
 * A score rounded so far that a single answer rarely shows: to two significant digits, and for scores up to 1 to
 * the step 0.05 below 400 rows, 0.01 from there on.
 */
function roundedTo(score: number | null, rows: number): number | null {
  if (score === null || score === 0) return score;
  if (Math.abs(score) <= 1) {
    const steps = rows < 400 ? 20 : 100;
    return Math.round(score * steps) / steps;
  }
  return Number(score.toPrecision(2));
}
