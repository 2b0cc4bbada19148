import type { Check } from '../check/check.js';
import type { Interval } from '../metrics/interval.js';
import { metricNamed } from '../metrics/registry.js';
import type { Judgement, QuestionKindKey, Scored } from '../questions/question.js';
import { marksLessLate } from '../policy/attempts.js';
import { ladder } from './ladder.js';
import type { Result } from './result.js';
import type { ScoredRows } from './scored.js';

export const FEEDBACK_POLICIES = ['after-return', 'rounded', 'only-when-better', 'everything'] as const;
/** What students see of their scores while an exercise is open. */
export type FeedbackPolicy = (typeof FEEDBACK_POLICIES)[number];

/** What a student receives for a submission. */
export interface Disclosed {
  readonly kind: QuestionKindKey;
  readonly checks: readonly Check[];
  readonly holds: boolean;
  /** The checks that earn marks; null where they wait for the return. */
  readonly judged: readonly Judgement[] | null;
  /** Null where they wait for the return. */
  readonly marks: number | null;
  readonly outOf: number;
  /** Percent that lateness takes off; it is in the marks, unless these were adjusted. */
  readonly latePercent: number;
  /** Why the marks are others than were found; null where they are those, or wait for the return. */
  readonly adjusted: string | null;
  /** Of predictions; null for other kinds, and of what could not be marked. */
  readonly scored: DisclosedScore | null;
}

export interface DisclosedScore {
  readonly metric: string;
  /** Null where nothing is shown. */
  readonly feedback: {
    readonly rows: number;
    readonly score: number | null;
    /** Whether it was rounded. */
    readonly rounded: boolean;
    /** Only under *everything*, and once returned. */
    readonly interval: Interval | null;
    readonly grid: ScoredRows['grid'];
  } | null;
  /** Whether a score was kept back because it does not beat the best shown by more than chance. */
  readonly notBetter: boolean;
  /** Only once the exercise is returned. */
  readonly final: {
    readonly rows: number;
    readonly score: number | null;
    readonly interval: Interval;
    readonly grid: ScoredRows['grid'];
  } | null;
}

/** Marks that staff gave an answer in place of those that were found. */
export interface Adjustment {
  readonly marks: number;
  /** What its student reads of it. */
  readonly reason: string;
}

/** When a student is told. */
export interface Moment {
  readonly policy: FeedbackPolicy;
  /** Whether the instructor has returned the exercise. */
  readonly returned: boolean;
  /** The best score that the student was shown for the question so far; null for none. */
  readonly shown: number | null;
  /** Percent of the marks that lateness costs. */
  readonly latePercent: number;
  readonly adjustment: Adjustment | null;
}

/**
 * The one place that decides what of a result a student receives. Never a truth or a residual of a single row before
 * the return, and no residual after it.
 *
 * While an exercise is open, checks of a student's own split, folds or curve are told at once, for they judge rows that
 * the student has; whether a value or a statement is right waits for the return, unless everything is shown, and then it
 * is said without the key.
 */
export function disclose(result: Result, moment: Moment): Disclosed {
  const { policy, returned, latePercent, adjustment } = moment;
  const { kind, checks, holds, outOf, scored } = result;
  const isKey = kind === 'values' || kind === 'choice';
  const telling = returned || (isKey ? policy === 'everything' : policy !== 'after-return');
  const judged = telling && kind !== 'predictions' ? result.judged : null;
  const marks =
    returned || (telling && kind !== 'predictions') ? marksOfAnswer(result, latePercent, adjustment) : null;
  return {
    kind,
    checks,
    holds,
    judged: returned || !isKey ? judged : (judged?.map(withoutKey) ?? null),
    marks,
    outOf,
    latePercent,
    adjusted: marks === null ? null : (adjustment?.reason ?? null),
    scored: scored && discloseScore(scored, moment),
  };
}

/** The best score that a student was shown, after a receipt: its own where it shows one. */
export const shownAfter = (disclosed: Disclosed, before: number | null): number | null =>
  disclosed.scored?.feedback?.score ?? before;

/** What an answer earns: what staff gave it, or else what was found less lateness; null where it could not be marked. */
export function marksOfAnswer(
  { marks }: Pick<Result, 'marks'>,
  latePercent: number,
  adjustment: Adjustment | null,
): number | null {
  if (marks === null) return null;
  return adjustment ? adjustment.marks : marksLessLate(marks, latePercent);
}

/** A judgement that says whether something is right, and not what would be. */
const withoutKey = (judgement: Judgement): Judgement => ({
  ...judgement,
  check: { ...judgement.check, expected: null },
});

function discloseScore(
  { metric, final, feedback }: Scored,
  { policy, returned, shown }: Moment,
): DisclosedScore {
  const score = feedback && !returned ? openScore(metric, feedback, policy, shown) : null;
  const full = returned || policy === 'everything';
  const value = returned ? (feedback?.score.value ?? null) : (score?.value ?? null);
  const isShown = feedback !== null && (returned || (policy !== 'after-return' && !score?.keptBack));
  return {
    metric,
    feedback: isShown
      ? {
          rows: feedback.rows,
          score: value,
          rounded: !returned && (score?.rounded ?? false),
          interval: full ? feedback.interval : null,
          grid: full ? feedback.grid : null,
        }
      : null,
    notBetter: !returned && (score?.keptBack ?? false),
    final: returned
      ? { rows: final.rows, score: final.score.value, interval: final.interval, grid: final.grid }
      : null,
  };
}

/** The score on the feedback rows as it is told while the exercise is open. */
function openScore(
  key: string,
  { score: { value }, rows, steps }: ScoredRows,
  policy: FeedbackPolicy,
  shown: number | null,
): { value: number | null; rounded: boolean; keptBack: boolean } {
  const told = (of: number | null, rounded: boolean, keptBack = false) => ({ value: of, rounded, keptBack });
  if (value === null) return told(null, false);
  switch (policy) {
    case 'after-return':
      return told(null, false, true);
    case 'rounded':
      return told(roundedTo(value, rows), true);
    case 'only-when-better': {
      const better = ladder(value, shown, steps ?? { own: 0, paired: null }, rows, metricNamed(key));
      return told(better, true, better === null);
    }
    case 'everything':
      // A log loss tells the answer of a single row to whoever changes its probability alone.
      return key === 'log_loss' ? told(roundedTo(value, rows), true) : told(value, false);
  }
}

/**
 * A score rounded so far that a single answer rarely shows: to two significant digits, and for scores up to 1 to
 * the step 0.05 below 400 rows, 0.01 from there on.
 */
function roundedTo(score: number, rows: number): number {
  if (score === 0) return score;
  if (Math.abs(score) <= 1) {
    const steps = rows < 400 ? 20 : 100;
    return Math.round(score * steps) / steps;
  }
  return Number(score.toPrecision(2));
}
