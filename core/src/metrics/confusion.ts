import { at } from '../foundation/numbers.js';
import type { LabelData } from './metric.js';

/** Weighted counts, truth in rows and prediction in columns, both in label order. */
export function confusionCounts(data: LabelData): number[][] {
  const k = data.labels.length;
  const flat = new Float64Array(k * k);
  for (let i = 0; i < data.truth.length; i++) {
    const cell = (data.truth[i] ?? 0) * k + (data.predicted[i] ?? 0);
    flat[cell] = (flat[cell] ?? 0) + (data.weights ? (data.weights[i] ?? 0) : 1);
  }
  return Array.from({ length: k }, (_, t) => Array.from(flat.subarray(t * k, t * k + k)));
}

/** The sums of a confusion matrix: by truth, by prediction, in all, and down the diagonal. */
export function marginals(data: LabelData): {
  readonly rows: number[];
  readonly columns: number[];
  readonly n: number;
  readonly agreed: number;
} {
  const counts = confusionCounts(data);
  const rows = counts.map((row) => row.reduce((a, b) => a + b, 0));
  return {
    rows,
    columns: counts.map((_, label) => counts.reduce((total, row) => total + (row[label] ?? 0), 0)),
    n: rows.reduce((a, b) => a + b, 0),
    agreed: counts.reduce((total, row, label) => total + (row[label] ?? 0), 0),
  };
}

/** Counts of one label against all others. */
export interface LabelCounts {
  readonly tp: number;
  readonly fn: number;
  readonly fp: number;
  readonly tn: number;
}

/** Counts of one label from a confusion matrix. */
export function labelCounts(counts: readonly (readonly number[])[], label: number): LabelCounts {
  let all = 0;
  let predicted = 0;
  let actual = 0;
  counts.forEach((row, t) =>
    row.forEach((n, p) => {
      all += n;
      if (t === label) actual += n;
      if (p === label) predicted += n;
    }),
  );
  const tp = at(at(counts, label), label);
  return { tp, fn: actual - tp, fp: predicted - tp, tn: all - actual - predicted + tp };
}

/** Counts of the positive label of a binary task. */
export function positiveCounts(data: LabelData): LabelCounts {
  return labelCounts(confusionCounts(data), data.positive ?? data.labels.length - 1);
}

/** Counts of every label that occurs among truths or predictions, which is what averages run over. */
export function occurringCounts(data: LabelData): LabelCounts[] {
  const counts = confusionCounts(data);
  return data.labels.map((_, label) => labelCounts(counts, label)).filter((c) => c.tp + c.fn + c.fp > 0);
}

/** Diagonal and total. */
export function agreement(data: LabelData): { hits: number; of: number } {
  const { agreed, n } = marginals(data);
  return { hits: agreed, of: n };
}
