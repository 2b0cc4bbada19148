import { judgeAgainst, type AnswerKey } from '../files/judge.js';
import type { Predictions } from '../files/reader.js';
import { at } from '../../foundation/numbers.js';
import { confusionCounts } from '../../metrics/confusion.js';
import { intervalOf, type Interval } from '../../metrics/intervals/interval.js';
import { figureOf, type Judged } from '../../metrics/judged.js';
import type { Figure, Metric } from '../../metrics/metric.js';
import { metricNamed, metricsFor } from '../../metrics/registry.js';
import { bounded, readsRows } from './row-readable.js';
import { gridOf, mostOfOneRow } from './grid.js';
import type { Steps } from './ladder.js';
import { standardErrors } from './standard-errors.js';

/** A sample of the residual plot, at most this many points. */
const MOST_RESIDUALS = 2000;

/** Of the bootstrap, so that the same file gets the same interval. It says nothing of an answer. */
const INTERVAL_SEED = 0;

/** Predictions judged on some rows. */
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
  /** The score from which is derived what is shown while the exercise is open, where that is another one. */
  readonly open?: number | null;
  /** How far a score must rise to be shown under *only when better*; null where that is not asked for. */
  readonly steps: Steps | null;
}

export interface Scoring {
  readonly metric: string;
  /** Whether the steps of *only when better* are needed. */
  readonly stepped: boolean;
  /** What guessing reaches. */
  readonly anchor: number;
  /** The predictions whose score was the last that the student was shown; null for none. */
  readonly before: Predictions | null;
}

/** Scores predictions on the given rows of a key. */
export function scoreRows(
  key: AnswerKey,
  predictions: Predictions,
  rows: Int32Array,
  { metric: name, stepped, anchor, before }: Scoring,
): ScoredRows {
  const judged = judgeAgainst(key, predictions, rows);
  const metric = metricNamed(name);
  const groups = key.groups ? rows.map((row) => at(key.groups ?? rows, row)) : null;
  const others = metricsFor(key.task).filter((m) => m.key !== metric.key);
  return {
    rows: rows.length,
    score: figureOf(metric, judged),
    interval: intervalOf(metric, judged, groups, { seed: INTERVAL_SEED }),
    others: Object.fromEntries(others.map((m) => [m.key, figureOf(m, judged)])),
    grid: judged.kind === 'labels' ? { labels: key.labels, counts: confusionCounts(judged.data) } : null,
    residuals: residualsOf(judged),
    ...(stepped
      ? openRows(metric, judged, before && judgeAgainst(key, before, rows), groups, anchor)
      : { steps: null }),
  };
}

/**
 * What decides how a score is shown while the exercise is open.
 *
 * @param before the predictions whose score was the last that was shown, on the same rows; null for none
 * @param groups the group of each row, or null where rows are independent
 */
export function openRows(
  metric: Metric,
  judged: Judged,
  before: Judged | null,
  groups: Int32Array | null,
  anchor: number,
): Pick<ScoredRows, 'open' | 'steps'> {
  const isRead = readsRows(metric);
  const open = isRead ? bounded(judged) : judged;
  const { step, oneRow } = gridOf(metric, open, anchor);
  return {
    ...(isRead ? { open: figureOf(metric, open).value } : {}),
    steps: {
      ...standardErrors(metric, open, before && (isRead ? bounded(before) : before), groups),
      step,
      oneRow: mostOfOneRow(metric, open),
      oneRowOfGuesses: oneRow,
    },
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
