import { at } from '../../foundation/numbers.js';
import type { Labelled } from '../table/labels.js';
import { meanOf } from './number-summary.js';
import { ranks } from './ranks.js';

/** The largest absolute value; 1 where that is 0 or beyond a safe scale. */
export function largest(values: Float64Array): number {
  let most = 0;
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? 0;
    if (value > most) most = value;
    else if (-value > most) most = -value;
  }
  return most > 1e-300 && most < 1e300 ? most : 1;
}

/** The pairs of which both values are present. */
function completePairs(x: Float64Array, y: Float64Array): [Float64Array, Float64Array] {
  let complete = true;
  for (let i = 0; complete && i < x.length; i++) complete = !Number.isNaN((x[i] ?? 0) + (y[i] ?? 0));
  if (complete) return [x, y];
  const [a, b] = [new Float64Array(x.length), new Float64Array(x.length)];
  let n = 0;
  for (let i = 0; i < x.length; i++) {
    const [one, other] = [x[i] ?? 0, y[i] ?? 0];
    if (Number.isNaN(one + other)) continue;
    a[n] = one;
    b[n++] = other;
  }
  return [a.subarray(0, n), b.subarray(0, n)];
}

/**
 * Pearson's product-moment correlation over the rows in which both values are present. What rounding leaves in the
 * means is taken off the sums: the corrected two-pass method of Chan, Golub and LeVeque (The American Statistician, 1983).
 *
 * @returns null for fewer than two such rows, or where one of the two does not vary
 */
export function pearson(x: Float64Array, y: Float64Array): number | null {
  const [a, b] = completePairs(x, y);
  if (a.length < 2) return null;
  const meanA = meanOf(a);
  const meanB = meanOf(b);
  // Squares of large or small numbers leave what doubles hold: both are brought near 1.
  const scaleA = 1 / largest(a);
  const scaleB = 1 / largest(b);
  let [sumA, sumB, ab, aa, bb] = [0, 0, 0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    const da = ((a[i] ?? 0) - meanA) * scaleA;
    const db = ((b[i] ?? 0) - meanB) * scaleB;
    sumA += da;
    sumB += db;
    ab += da * db;
    aa += da * da;
    bb += db * db;
  }
  const n = a.length;
  const r = (ab - (sumA * sumB) / n) / Math.sqrt((aa - (sumA * sumA) / n) * (bb - (sumB * sumB) / n));
  return Number.isFinite(r) ? Math.max(-1, Math.min(1, r)) : null;
}

/** Spearman's rank correlation: Pearson's over ranks, ties at their mean rank. Null as for `pearson`. */
export function spearman(x: Float64Array, y: Float64Array): number | null {
  const [a, b] = completePairs(x, y);
  return pearson(ranks(a), ranks(b));
}

/** χ² over n, and the classes that occur. */
interface Contingency {
  readonly phi2: number;
  readonly rows: number;
  readonly columns: number;
  readonly n: number;
}

/**
 * Cramér's V of two columns of classes, without correction: sqrt(χ² / (n · (min(r, c) − 1))) over the rows in which
 * both are present (Cramér, Mathematical Methods of Statistics, 1946). Null where one of them has fewer than two classes there.
 */
export function cramersV(a: Labelled, b: Labelled): number | null {
  const { phi2, rows, columns } = contingencyOf(a, b);
  const least = Math.min(rows, columns);
  return least < 2 ? null : Math.sqrt(phi2 / (least - 1));
}

/**
 * Cramér's V without the part that chance alone makes of many classes (Bergsma, Journal of the Korean Statistical Society 42,
 * 2013). Null as for `cramersV`, and where hardly a row is left for each class.
 */
export function correctedV(a: Labelled, b: Labelled): number | null {
  const { phi2, rows, columns, n } = contingencyOf(a, b);
  if (Math.min(rows, columns) < 2) return null;
  const left = Math.max(0, phi2 - ((rows - 1) * (columns - 1)) / (n - 1));
  const corrected = (k: number) => k - (k - 1) ** 2 / (n - 1);
  const least = Math.min(corrected(rows), corrected(columns)) - 1;
  return least > 0 ? Math.min(1, Math.sqrt(left / least)) : null;
}

function contingencyOf(a: Labelled, b: Labelled): Contingency {
  const [rows, columns] = [a.labels.length, b.labels.length];
  const counts = new Map<number, number>();
  const ofRow = new Float64Array(rows);
  const ofColumn = new Float64Array(columns);
  for (let i = 0; i < a.codes.length; i++) {
    const [r, c] = [a.codes[i] ?? 0, b.codes[i] ?? 0];
    if (r < 0 || c < 0) continue;
    counts.set(r * columns + c, (counts.get(r * columns + c) ?? 0) + 1);
    ofRow[r] = (ofRow[r] ?? 0) + 1;
    ofColumn[c] = (ofColumn[c] ?? 0) + 1;
  }
  // χ² = n · (Σ count² / (row · column) − 1): cells without rows add nothing.
  let sum = 0;
  for (const [cell, m] of counts)
    sum += (m * m) / (at(ofRow, Math.floor(cell / columns)) * at(ofColumn, cell % columns));
  return {
    phi2: Math.max(0, sum - 1),
    rows: ofRow.filter((m) => m > 0).length,
    columns: ofColumn.filter((m) => m > 0).length,
    n: ofRow.reduce((all, m) => all + m, 0),
  };
}

/**
 * Correlation ratio η of numbers by classes: the root of the share of their variance that lies between the classes
 * (Fisher, Statistical Methods for Research Workers, 1925; it is what R's summary(aov) gives as the root of SSB / SST).
 * Null where the numbers do not vary.
 */
export function correlationRatio(classes: Labelled, values: Float64Array): number | null {
  const parts = variationOf(classes, values);
  return parts && parts.total > 0 ? Math.sqrt(Math.min(1, parts.between / parts.total)) : null;
}

/**
 * The correlation ratio without the part that chance alone makes of many classes: the root of ε², with the variance within the
 * classes taken off for each of their degrees of freedom (Kelley, Proceedings of the National Academy of Sciences 21, 1935; R's
 * adjusted R² of the numbers by the classes). Null as for `correlationRatio`, and where each class has one row.
 */
export function correctedRatio(classes: Labelled, values: Float64Array): number | null {
  const parts = variationOf(classes, values);
  if (!parts || !(parts.total > 0) || parts.n <= parts.groups) return null;
  const { between, total, n, groups } = parts;
  const within = (total - between) / (n - groups);
  return Math.sqrt(Math.min(1, Math.max(0, (between - (groups - 1) * within) / total)));
}

/** Sums of squares of numbers, between the classes and of all; null for fewer than two rows. */
function variationOf(
  classes: Labelled,
  values: Float64Array,
): { between: number; total: number; n: number; groups: number } | null {
  const sums = new Float64Array(classes.labels.length);
  const counts = new Float64Array(classes.labels.length);
  const { codes } = classes;
  let n = 0;
  let mean = 0;
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? NaN;
    if (Number.isNaN(value) || (codes[i] ?? -1) < 0) continue;
    n++;
    // By steps, so that a large common part loses no digits.
    mean += (value - mean) / n;
  }
  if (n < 2) return null;
  let total = 0;
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? NaN;
    const code = codes[i] ?? -1;
    if (Number.isNaN(value) || code < 0) continue;
    sums[code] = (sums[code] ?? 0) + value - mean;
    counts[code] = (counts[code] ?? 0) + 1;
    total += (value - mean) ** 2;
  }
  let between = 0;
  sums.forEach((sum, code) => {
    if ((counts[code] ?? 0) > 0) between += (sum * sum) / (counts[code] ?? 0);
  });
  return { between, total, n, groups: counts.filter((count) => count > 0).length };
}
