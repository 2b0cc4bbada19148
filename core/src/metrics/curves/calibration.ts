import { at } from '../../foundation/numbers.js';
import type { LabelData } from '../metric.js';

/** Rows whose probability of the positive class lies in one run. */
export interface CalibrationRun {
  /** From here on; the last run includes its end, which is 1. */
  readonly from: number;
  readonly to: number;
  /** Rows, or the sum of their weights. */
  readonly rows: number;
  /** Mean probability, and share that is positive; null without rows. */
  readonly mean: number | null;
  readonly positive: number | null;
}

const RUNS = 10;

/**
 * What was predicted against what came true, by runs of equal width (scikit-learn, calibration_curve with
 * strategy="uniform"; a probability on an inner bound belongs to the upper run).
 *
 * @param data of a binary task with probabilities
 */
export function calibrationTable(data: LabelData, runs = RUNS): CalibrationRun[] {
  const label = data.positive ?? data.labels.length - 1;
  const probabilities = data.probabilities?.[label] ?? new Float64Array();
  const rows = new Float64Array(runs);
  const sums = new Float64Array(runs);
  const hits = new Float64Array(runs);
  for (let row = 0; row < probabilities.length; row++) {
    const p = probabilities[row] ?? 0;
    const run = Math.min(runs - 1, Math.max(0, Math.floor(p * runs)));
    const weight = data.weights ? (data.weights[row] ?? 0) : 1;
    rows[run] = (rows[run] ?? 0) + weight;
    sums[run] = (sums[run] ?? 0) + weight * p;
    if (data.truth[row] === label) hits[run] = (hits[run] ?? 0) + weight;
  }
  return Array.from({ length: runs }, (_, run) => {
    const n = at(rows, run);
    return {
      from: run / runs,
      to: (run + 1) / runs,
      rows: n,
      mean: n > 0 ? at(sums, run) / n : null,
      positive: n > 0 ? at(hits, run) / n : null,
    };
  });
}
