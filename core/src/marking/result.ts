import { allHold, type Check } from '../check/check.js';
import { judgeAgainst, rowsFor, type AnswerKey } from '../check/judge.js';
import { checkPredictions } from '../check/predictions.js';
import type { Predictions } from '../check/reader.js';
import type { PredictionRules } from '../check/rules.js';
import { at } from '../numbers.js';
import { confusionCounts } from '../metrics/confusion.js';
import { intervalOf, type Interval } from '../metrics/interval.js';
import { figureOf, type Judged } from '../metrics/judged.js';
import type { Figure } from '../metrics/metric.js';
import { metricNamed, metricsFor } from '../metrics/registry.js';
import { marksFor, type MarkScheme } from './scheme.js';

/** Raised whenever the same file could get other figures than before; stored with every result. */
export const CHECKER_VERSION = 2;

/** A sample of the residual plot, at most this many points. */
const MOST_RESIDUALS = 2000;

/** Everything that is known of a submission. Staff see it; students see what `disclose` lets through. */
export interface Result {
  readonly checks: readonly Check[];
  readonly holds: boolean;
  readonly rows: number | null;
  readonly metric: string;
  readonly final: ScoredRows | null;
  /** Null where no feedback rows were drawn. */
  readonly feedback: ScoredRows | null;
  readonly marks: number | null;
  readonly outOf: number;
  /** Whether labels were derived from probabilities at 0.5. */
  readonly derivedLabels: boolean;
}

export interface ScoredRows {
  readonly rows: number;
  readonly score: Figure;
  readonly interval: Interval;
  /** All other metrics of the task, by key. */
  readonly others: Readonly<Record<string, Figure>>;
  readonly grid: {
    readonly labels: readonly string[];
    readonly counts: readonly (readonly number[])[];
  } | null;
  readonly residuals: { readonly predicted: readonly number[]; readonly residual: readonly number[] } | null;
}

export interface Marking {
  readonly metric: string;
  readonly scheme: MarkScheme;
  /** Seed of the bootstrap, so that the same file gets the same interval. */
  readonly seed: number;
}

/** Checks a file and scores it: what a worker does with a submission. */
export function markSubmission(
  bytes: Uint8Array,
  file: string,
  rules: PredictionRules,
  key: AnswerKey,
  marking: Marking,
): Result {
  const checked = checkPredictions(bytes, file, rules);
  const { predictions } = checked;
  const score = (purpose: 'feedback' | 'final') => {
    const rows = rowsFor(key, purpose);
    return predictions && rows.length > 0 ? scoreRows(key, predictions, rows, marking) : null;
  };
  const final = score('final');
  return {
    checks: checked.checks,
    holds: allHold(checked.checks),
    rows: checked.rows,
    metric: marking.metric,
    final,
    feedback: score('feedback'),
    marks: final ? marksFor(marking.scheme, final.score.value) : null,
    outOf: marking.scheme.marks,
    derivedLabels: predictions?.kind === 'labels' && predictions.derived,
  };
}

function scoreRows(key: AnswerKey, predictions: Predictions, rows: Int32Array, marking: Marking): ScoredRows {
  const judged = judgeAgainst(key, predictions, rows);
  const metric = metricNamed(marking.metric);
  const groups = key.groups ? rows.map((row) => at(key.groups ?? rows, row)) : null;
  const others = metricsFor(key.task).filter((m) => m.key !== metric.key);
  return {
    rows: rows.length,
    score: figureOf(metric, judged),
    interval: intervalOf(metric, judged, groups, { seed: marking.seed }),
    others: Object.fromEntries(others.map((m) => [m.key, figureOf(m, judged)])),
    grid: judged.kind === 'labels' ? { labels: key.labels, counts: confusionCounts(judged.data) } : null,
    residuals: residualsOf(judged),
  };
}

function residualsOf(judged: Judged): ScoredRows['residuals'] {
  if (judged.kind !== 'numbers') return null;
  const { truth, predicted } = judged.data;
  const step = Math.ceil(truth.length / MOST_RESIDUALS);
  const rows = Array.from(truth.keys()).filter((row) => row % step === 0);
  return {
    predicted: rows.map((row) => at(predicted, row)),
    residual: rows.map((row) => at(truth, row) - at(predicted, row)),
  };
}
