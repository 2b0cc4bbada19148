import { at, quantile } from '../numbers.js';

export interface NumberSummary {
  readonly mean: number;
  /** With n − 1; null for fewer than two values. */
  readonly sd: number | null;
  readonly min: number;
  readonly q1: number;
  readonly median: number;
  readonly q3: number;
  readonly max: number;
  /** Bias-corrected (G1); null for fewer than three values or where they do not vary. */
  readonly skewness: number | null;
  /** Excess over a normal distribution, bias-corrected (G2); null for fewer than four values or without spread. */
  readonly kurtosis: number | null;
}

/**
 * Summary of values in ascending order; at least one, none NaN.
 *
 * Quartiles by linear interpolation (type 7 of Hyndman and Fan, 1996); G1 and G2 as in Joanes and Gill, The
 * Statistician 47 (1998), which are what pandas' `skew` and `kurt` give.
 */
export function summarise(sorted: Float64Array): NumberSummary {
  const n = sorted.length;
  const mean = meanOf(sorted);
  let second = 0;
  let third = 0;
  let fourth = 0;
  for (let i = 0; i < n; i++) {
    const d = (sorted[i] ?? 0) - mean;
    const square = d * d;
    second += square;
    third += square * d;
    fourth += square * square;
  }
  const varies = at(sorted, 0) !== (sorted[n - 1] ?? 0) && second > 0;
  const m2 = second / n;
  return {
    mean,
    sd: n < 2 ? null : Math.sqrt(second / (n - 1)),
    min: at(sorted, 0),
    q1: quantile(sorted, 0.25),
    median: quantile(sorted, 0.5),
    q3: quantile(sorted, 0.75),
    max: sorted[n - 1] ?? 0,
    skewness: finite(
      varies && n > 2 ? ((third / n / (m2 * Math.sqrt(m2))) * Math.sqrt(n * (n - 1))) / (n - 2) : NaN,
    ),
    kurtosis: finite(
      varies && n > 3 ? ((n - 1) / ((n - 2) * (n - 3))) * ((n + 1) * (fourth / n / (m2 * m2) - 3) + 6) : NaN,
    ),
  };
}

/** Null where a figure overflowed or is undefined. */
const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

/** Mean, by way of an approximate one so that a large common part loses no digits. NaN without values. */
export function meanOf(values: Float64Array): number {
  const near = values[Math.floor(values.length / 2)] ?? NaN;
  let total = 0;
  for (let i = 0; i < values.length; i++) total += (values[i] ?? 0) - near;
  return near + total / values.length;
}
