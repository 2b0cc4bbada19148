import { at } from '../../foundation/numbers.js';
import { quantileOf, type Tally } from '../../foundation/statistics/tally.js';

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
 * Summary of at least one value.
 *
 * Quartiles by linear interpolation (type 7 of Hyndman and Fan, 1996); G1 and G2 as in Joanes and Gill, The
 * Statistician 47 (1998), which are what pandas' `skew` and `kurt` give.
 */
export function summarise(tally: Tally): NumberSummary {
  const { values, counts, total: n } = tally;
  const distinct = values.length;
  // By way of a value among them, so that a large common part loses no digits.
  const near = quantileOf(tally, 0.5);
  let sum = 0;
  for (let i = 0; i < distinct; i++) sum += (counts[i] ?? 0) * ((values[i] ?? 0) - near);
  const mean = near + sum / n;
  let second = 0;
  let third = 0;
  let fourth = 0;
  for (let i = 0; i < distinct; i++) {
    const d = (values[i] ?? 0) - mean;
    const squares = (counts[i] ?? 0) * d * d;
    second += squares;
    third += squares * d;
    fourth += squares * d * d;
  }
  const varies = distinct > 1 && second > 0;
  const m2 = second / n;
  return {
    mean,
    sd: n < 2 ? null : Math.sqrt(second / (n - 1)),
    min: at(values, 0),
    q1: quantileOf(tally, 0.25),
    median: near,
    q3: quantileOf(tally, 0.75),
    max: at(values, distinct - 1),
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
