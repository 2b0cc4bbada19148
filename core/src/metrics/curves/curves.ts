import type { LabelData } from '../metric.js';
import { rankingOf, type Ranking } from './ranking.js';

/** The confusion of a binary task when rows from a threshold on are called positive. Counts, or sums of weights. */
export interface ThresholdRow {
  /** Infinity for the row at which nothing is called positive. */
  readonly threshold: number;
  readonly tp: number;
  readonly fp: number;
  readonly fn: number;
  readonly tn: number;
}

/** Ranking by the probability of the positive class; null without probabilities. */
function positiveRanking(data: LabelData): Ranking | null {
  const label = data.positive ?? data.labels.length - 1;
  const scores = data.probabilities?.[label];
  return scores ? rankingOf(scores, data.truth, label, data.weights) : null;
}

/** Visits the confusion at every threshold that changes it, from the one above all scores down. */
function eachThreshold(data: LabelData, visit: (row: ThresholdRow) => void): void {
  const ranking = positiveRanking(data);
  if (!ranking) return;
  const { scores, positive, negative } = ranking;
  const positives = sumOf(positive);
  const negatives = sumOf(negative);
  visit({ threshold: Infinity, tp: 0, fp: 0, fn: positives, tn: negatives });
  let tp = 0;
  let fp = 0;
  for (let place = 0; place < scores.length; place++) {
    tp += positive[place] ?? 0;
    fp += negative[place] ?? 0;
    visit({ threshold: scores[place] ?? 0, tp, fp, fn: positives - tp, tn: negatives - fp });
  }
}

function sumOf(values: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i] ?? 0;
  return sum;
}

/**
 * The confusion at every threshold that changes it, from the one above all scores down; empty without probabilities.
 */
export function thresholdTable(data: LabelData): ThresholdRow[] {
  const rows: ThresholdRow[] = [];
  eachThreshold(data, (row) => rows.push(row));
  return rows;
}

export interface CurvePoint {
  readonly x: number;
  readonly y: number;
  readonly threshold: number;
}

/** False-positive rate (x) and recall (y), from (0, 0) to (1, 1) (scikit-learn, roc_curve). */
export const rocCurve = (data: LabelData): CurvePoint[] =>
  thresholdTable(data).map(({ threshold, tp, fp, fn, tn }) => ({
    x: fp / (fp + tn),
    y: tp / (tp + fn),
    threshold,
  }));

/** Recall (x) and precision (y) at each threshold at which something is called positive (scikit-learn, precision_recall_curve). */
export const precisionRecallCurve = (data: LabelData): CurvePoint[] =>
  thresholdTable(data)
    .slice(1)
    .map(({ threshold, tp, fp, fn }) => ({ x: tp / (tp + fn), y: tp / (tp + fp), threshold }));

/**
 * Share of the rows that are called positive (x), and share of the positive ones among them (y): the gain. The lift
 * there is y / x.
 */
export const gainCurve = (data: LabelData): CurvePoint[] =>
  thresholdTable(data).map(({ threshold, tp, fp, fn, tn }) => ({
    x: (tp + fp) / (tp + fp + fn + tn),
    y: tp / (tp + fn),
    threshold,
  }));

/** What each of the four outcomes of a row costs; a gain is below 0. */
export interface CostTable {
  readonly tp: number;
  readonly fp: number;
  readonly fn: number;
  readonly tn: number;
}

/**
 * The threshold at which the costs are lowest, the highest of those that are equal; null without probabilities.
 */
export function cheapestThreshold(
  data: LabelData,
  costs: CostTable,
): { readonly threshold: number; readonly cost: number } | null {
  const best = highest(data, (row) => -costOf(row, costs));
  return best && { threshold: best.threshold, cost: -best.value };
}

const costOf = (row: ThresholdRow, costs: CostTable): number =>
  row.tp * costs.tp + row.fp * costs.fp + row.fn * costs.fn + row.tn * costs.tn;

/** Figures of a confusion that a threshold can be chosen by. */
const THRESHOLD_FIGURES = {
  accuracy: ({ tp, fp, fn, tn }: ThresholdRow) => (tp + tn) / (tp + fp + fn + tn),
  balanced_accuracy: ({ tp, fp, fn, tn }: ThresholdRow) => (tp / (tp + fn) + tn / (tn + fp)) / 2,
  f1: ({ tp, fp, fn }: ThresholdRow) => (2 * tp) / (2 * tp + fp + fn),
  mcc: ({ tp, fp, fn, tn }: ThresholdRow) =>
    (tp * tn - fp * fn) / Math.sqrt((tp + fp) * (tp + fn) * (tn + fp) * (tn + fn)),
} as const;

/** The threshold at which a figure is highest, the highest of those that are equal; null where it is defined at none. */
export const bestThreshold = (data: LabelData, figure: keyof typeof THRESHOLD_FIGURES) =>
  highest(data, THRESHOLD_FIGURES[figure]);

function highest(
  data: LabelData,
  figure: (row: ThresholdRow) => number,
): { readonly threshold: number; readonly value: number } | null {
  let threshold = NaN;
  let value = NaN;
  eachThreshold(data, (row) => {
    const own = figure(row);
    if (Number.isNaN(own) || own <= value) return;
    threshold = row.threshold;
    value = own;
  });
  return Number.isNaN(value) ? null : { threshold, value };
}
