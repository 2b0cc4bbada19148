import { normalAt, normalBelow } from '../../foundation/statistics/distributions.js';
import { sortedValues } from '../../foundation/statistics/tally.js';

/** A residual beside what a normal distribution would have in its place. */
export interface NormalPoint {
  /** Standardised residual, and the normal quantile of its place. */
  readonly value: number;
  readonly quantile: number;
  /** The share of the normal distribution below the residual, and the share of residuals below it. */
  readonly expected: number;
  readonly share: number;
}

/**
 * Points of the normal quantile plot and of the normal probability plot, at (i − 0.5)/n (Hazen’s positions; R, ppoints
 * for more than ten values).
 *
 * @param most points at most, evenly taken
 */
export function normalPlot(residuals: Float64Array, most = 400): NormalPoint[] {
  const sorted = sortedValues(residuals);
  const n = sorted.length;
  const mean = sorted.reduce((a, b) => a + b, 0) / n;
  const sd = Math.sqrt(sorted.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (n - 1));
  if (!(sd > 0)) return [];
  const step = Math.max(1, n / most);
  return Array.from({ length: Math.min(n, most) }, (_, k) => {
    const i = Math.floor(k * step);
    const value = ((sorted[i] ?? 0) - mean) / sd;
    const share = (i + 0.5) / n;
    return { value, quantile: normalAt(share), expected: normalBelow(value), share };
  });
}
