import { studentHalfWidth, studentTwoSided } from '../../foundation/statistics/distributions.js';
import { undefinedBecause, type Figure, type Undefined } from '../../metrics/metric.js';

/** A figure over folds. */
export interface FoldSummary {
  readonly folds: number;
  readonly mean: number;
  /** With n − 1; null for a single fold. */
  readonly sd: number | null;
  /** sd / √folds; folds share training rows, so that it is a guide and no promise. */
  readonly se: number | null;
}

/**
 * Mean, deviation and standard error of a metric over folds.
 *
 * @returns null, with the reason, where there is no fold or where the figure of one is undefined
 */
export function summariseFolds(
  figures: readonly Figure[],
): FoldSummary | { readonly mean: null; readonly reason: string } {
  const values: number[] = [];
  for (const [fold, figure] of figures.entries()) {
    if (figure.value === null) return { mean: null, reason: `fold ${fold + 1}: ${figure.reason}` };
    values.push(figure.value);
  }
  const n = values.length;
  if (n === 0) return { mean: null, reason: 'there are no folds' };
  const mean = values.reduce((a, b) => a + b, 0) / n;
  const sd =
    n < 2 ? null : Math.sqrt(values.reduce((total, value) => total + (value - mean) ** 2, 0) / (n - 1));
  return { folds: n, mean, sd, se: sd === null ? null : sd / Math.sqrt(n) };
}

/** A paired difference over folds and its test. */
export interface ResampledT {
  readonly difference: number;
  /** Standard error of the difference, corrected for the overlap of training rows. */
  readonly se: number;
  readonly t: number;
  readonly df: number;
  /** Two-sided. */
  readonly p: number;
  readonly low: number;
  readonly high: number;
}

/** Spread of differences, relative to the figures, that rounding alone leaves. */
const ROUNDING = 1e-12;

/**
 * Variance of a mean over folds whose training sets overlap: that of the values times 1/n + test/training rows in place of
 * 1/n (Nadeau and Bengio, Machine Learning 52, 2003). 0 for fewer than two values.
 */
export function correctedVariance(values: readonly number[], ratio: number): number {
  const n = values.length;
  if (n < 2) return 0;
  const mean = values.reduce((a, b) => a + b, 0) / n;
  return (1 / n + ratio) * (values.reduce((total, value) => total + (value - mean) ** 2, 0) / (n - 1));
}

/**
 * Corrected resampled t-test of paired differences over folds, with the corrected variance of their mean (Nadeau
 * and Bengio, Machine Learning 52, 2003).
 *
 * @param first figures of one model in each fold of each repeat
 * @param second figures of the other in the same folds
 * @param ratio test rows over training rows, 1 / (k − 1) for k folds
 * @returns the reason where there are fewer than two folds or all differences are the same
 */
export function correctedResampledT(
  first: readonly number[],
  second: readonly number[],
  ratio: number,
  level = 0.95,
): ResampledT | Undefined {
  const differences = first.map((value, i) => value - (second[i] ?? NaN));
  const n = differences.length;
  if (n < 2 || second.length !== n)
    return undefinedBecause('it takes the same folds twice, at least two of them');
  const mean = differences.reduce((a, b) => a + b, 0) / n;
  const variance = correctedVariance(differences, ratio);
  const largest = Math.max(...first.map(Math.abs), ...second.map(Math.abs));
  const se = Math.sqrt(variance);
  if (!(se > ROUNDING * largest)) return undefinedBecause('the differences do not vary over the folds');
  const df = n - 1;
  const half = studentHalfWidth(level, df) * se;
  return {
    difference: mean,
    se,
    t: mean / se,
    df,
    p: studentTwoSided(mean / se, df),
    low: mean - half,
    high: mean + half,
  };
}
