import type { FeedbackPolicy, SlipPolicy } from '../policy/feedback.js';
import { slipsFor, type DisclosedSlip } from './disclosed-slips.js';
import type { Check } from '../../foundation/check.js';
import type { Interval } from '../../metrics/intervals/interval.js';
import type { Metric } from '../../metrics/metric.js';
import { metricNamed } from '../../metrics/registry.js';
import type { QuestionKindKey } from '../questions/question.js';
import { questionKindOf } from '../questions/registry.js';
import type { Judgement, Scored } from '../questions/contract/answer.js';
import type { ModelResult } from '../questions/contract/model-run.js';
import { EVIDENCE } from '../questions/contract/credit.js';
import { dependsOnOneRow, inSteps, ladder } from '../marking/ladder.js';
import { roundedTo } from '../marking/rounded.js';
import { readsRows } from '../marking/row-readable.js';
import { marksOfAnswer, standingOf, type Adjustment } from './marks-of-answer.js';
import type { Result } from './result.js';
import type { FurtherScore } from '../marking/further-score.js';
import type { MarkScheme } from '../marking/scheme.js';
import type { ScoredRows } from '../marking/scored.js';

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
  /** What decides which submission counts; null until the return. */
  readonly standing?: number | null;
  /** Percent that lateness takes off; it is in the marks, unless these were adjusted. */
  readonly latePercent: number;
  /** Why the marks are others than were found; null where they are those, or wait for the return. */
  readonly adjusted: string | null;
  /** What staff wrote about the answer, as Markdown; left out where they wrote nothing, and until the return. */
  readonly comment?: string;
  /** Known mistakes behind what is wrong; left out where none are told. */
  readonly slips?: readonly DisclosedSlip[];
  /** Of predictions; null for other kinds, and of what could not be marked. */
  readonly scored: DisclosedScore | null;
  /** Of a model: what is read off it, and its score on rows that its student has; left out for other kinds. */
  readonly model?: ModelResult;
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
  /** Whether a score was kept back because it is not a step above the best shown. */
  readonly notBetter: boolean;
  /** Whether a score was not shown because it is undefined, or because so much of it depends on a single row that it would show that row. */
  readonly fewRows: boolean;
  /** Only once the exercise is returned. */
  readonly final: {
    readonly rows: number;
    readonly score: number | null;
    readonly interval: Interval;
    readonly grid: ScoredRows['grid'];
    /** The line by which it was marked; left out in results of earlier versions. */
    readonly line?: MarkScheme;
    /** Its marks, and the further figures with theirs, before lateness; left out where there is but one figure. */
    readonly first?: number;
    readonly further?: readonly Omit<FurtherScore, 'groups'>[];
  } | null;
}

/** When a result is disclosed. */
export interface Moment {
  readonly policy: FeedbackPolicy;
  /** When slips are told. */
  readonly slips: SlipPolicy;
  /** Whether the instructor has returned the exercise. */
  readonly returned: boolean;
  /** The best score that the student was shown for the question so far; null for none. */
  readonly shown: number | null;
  /** Percent of the marks that lateness costs. */
  readonly latePercent: number;
  readonly adjustment: Adjustment | null;
  /** What staff wrote about the answer, as Markdown; null for nothing. */
  readonly comment: string | null;
}

/**
 * The one place that decides what of a result a student receives. Never a truth or a residual of a single row before
 * the return, and no residual after it.
 *
 * While an exercise is open, checks of a student's own split, folds or curve are shown at once, for they judge rows that
 * the student has; under *nothing until returned* those of form and plausibility that fail, so that honest work can be
 * corrected. Whether a value or a statement is right waits for the return, unless everything is shown, and then it is said
 * without the key. Evidence is for staff alone.
 */
export function disclose(result: Result, moment: Moment): Disclosed {
  const { policy, returned, latePercent, adjustment } = moment;
  const { kind, checks, holds, outOf, scored } = result;
  const { markedBy } = questionKindOf(kind);
  const isKey = markedBy === 'key';
  const isShown = returned || (isKey ? policy === 'everything' : policy !== 'after-return');
  const own = result.judged.filter(({ check }) => check.id !== EVIDENCE);
  const judged = judgedFor(kind, own, returned, isShown);
  const marks =
    returned || (isShown && markedBy !== 'score') ? marksOfAnswer(result, latePercent, adjustment) : null;
  return {
    kind,
    checks,
    holds,
    judged: returned || !isKey ? judged : (judged?.map(withoutKey) ?? null),
    marks,
    outOf,
    standing: returned ? standingOf(result, latePercent, adjustment) : null,
    latePercent,
    adjusted: marks === null ? null : (adjustment?.reason ?? null),
    scored: scored && discloseScore(scored, moment),
    ...(returned && moment.comment !== null ? { comment: moment.comment } : {}),
    ...slipsFor(result, moment),
    ...(result.model ? { model: result.model } : {}),
  };
}

function judgedFor(
  kind: QuestionKindKey,
  judged: readonly Judgement[],
  returned: boolean,
  isShown: boolean,
): readonly Judgement[] | null {
  const { markedBy, plausibility } = questionKindOf(kind);
  // Predictions and models have no checks that earn marks, and a condition may show something of the final rows.
  if (markedBy === 'score') return returned && judged.length > 0 ? judged : null;
  if (isShown) return judged;
  if (markedBy === 'key') return null;
  const failed = judged.filter(({ check }) => check.outcome === 'fails' && plausibility.includes(check.id));
  return failed.length > 0 ? failed : null;
}

/** The figures of subgroups are for staff. */
const withoutGroups = ({ title, metric, how, rows, score, interval, line, marks }: FurtherScore) => ({
  ...{ title, metric, how, rows, score, interval, line, marks },
});

/** A judgement that says whether something is right, and not what would be. */
const withoutKey = (judgement: Judgement): Judgement => ({
  ...judgement,
  check: { ...judgement.check, expected: null },
});

function discloseScore(
  { metric: key, final, feedback, anchor = 0, line, first, further }: Scored,
  { policy, returned, shown }: Moment,
): DisclosedScore {
  const open = feedback && !returned ? openScore(metricNamed(key), feedback, policy, shown, anchor) : null;
  const value = returned ? (feedback?.score.value ?? null) : (open?.value ?? null);
  const isShown = feedback !== null && (returned || (policy !== 'after-return' && open?.withheld === null));
  const interval = returned ? (feedback?.interval ?? null) : (open?.interval ?? null);
  return {
    metric: key,
    feedback: isShown
      ? {
          rows: feedback.rows,
          score: value,
          rounded: !returned && (open?.rounded ?? false),
          interval,
          grid: returned || policy === 'everything' ? feedback.grid : null,
        }
      : null,
    notBetter: open?.withheld === 'not better',
    fewRows: open?.withheld === 'few rows',
    final: returned
      ? {
          rows: final.rows,
          score: final.score.value,
          interval: final.interval,
          grid: final.grid,
          ...(line ? { line } : {}),
          ...(first === undefined ? {} : { first }),
          ...(further ? { further: further.map(withoutGroups) } : {}),
        }
      : null,
  };
}

/** A score on the feedback rows as it is shown while the exercise is open. */
interface OpenScore {
  readonly value: number | null;
  readonly rounded: boolean;
  readonly interval: Interval | null;
  /** Why nothing is shown; null where something is. */
  readonly withheld: 'not better' | 'few rows' | null;
}

function openScore(
  metric: Metric,
  feedback: ScoredRows,
  policy: FeedbackPolicy,
  shown: number | null,
  anchor: number,
): OpenScore {
  const { score, rows, steps, open, interval } = feedback;
  const value = open ?? score.value;
  const nothing: OpenScore = { value: null, rounded: false, interval: null, withheld: null };
  if (policy === 'after-return') return nothing;
  if (policy === 'only-when-better' || (readsRows(metric) && steps)) {
    // An undefined score, such as a precision where no feedback row is predicted positive, would show which rows these are.
    if (value === null || !steps || dependsOnOneRow(steps, metric))
      return { ...nothing, withheld: 'few rows' };
    const inStep =
      policy === 'only-when-better'
        ? ladder(value, shown, steps, rows, metric, anchor)
        : inSteps(value, steps.step, metric, anchor);
    return inStep === null
      ? { ...nothing, withheld: 'not better' }
      : { value: inStep, rounded: true, interval: null, withheld: null };
  }
  if (value === null) return nothing;
  return policy === 'everything' && !readsRows(metric)
    ? { value, rounded: false, interval, withheld: null }
    : { value: roundedTo(value, rows), rounded: true, interval: null, withheld: null };
}
