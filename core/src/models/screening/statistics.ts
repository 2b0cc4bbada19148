import { at } from '../../foundation/numbers.js';
import { chiSquareAbove, fAbove } from '../../foundation/statistics/distributions.js';

/** How a column is set against the target: by a table of counts, by its spread within and between classes, by information. */
export const SCREENS = ['anova', 'chi-square', 'mutual-information'] as const;
export type ScreenBy = (typeof SCREENS)[number];

/** A statistic of a column beside the target, and the chance of one at least as large where they have nothing in common. */
export interface Statistic {
  readonly value: number;
  readonly p: number;
}

/** Numbers, or codes from 0 of which −1 is a missing cell. */
export type Side =
  | { readonly kind: 'numbers'; readonly values: Float64Array }
  | { readonly kind: 'codes'; readonly codes: Int32Array; readonly count: number };

/** Parts into which numbers are cut where they are counted: by their quantiles, as equal as ties allow. */
const PARTS = 5;

/** Numbers as codes of parts of about as many values each; a missing one is −1. */
function partsOf(values: Float64Array): Side & { kind: 'codes' } {
  const sorted = values.filter((value) => !Number.isNaN(value)).sort();
  const limits = new Set<number>();
  for (let i = 1; sorted.length > 0 && i < PARTS; i++)
    limits.add(at(sorted, Math.floor((i * sorted.length) / PARTS)));
  const codes = new Int32Array(values.length).fill(-1);
  for (let row = 0; row < codes.length; row++) {
    const value = values[row] ?? NaN;
    if (Number.isNaN(value)) continue;
    let code = 0;
    for (const limit of limits) if (value >= limit) code++;
    codes[row] = code;
  }
  return { kind: 'codes', codes, count: limits.size + 1 };
}

/**
 * A column set against the target. Missing cells of either take no part. By `anova` numbers against classes are compared by
 * one-way analysis of variance, numbers against numbers by the F of a line; two sides of classes have none. By the others
 * numbers are cut at their quantiles into fifths: Pearson's chi-square without correction, or the mutual information in nats
 * with the chance of the likelihood ratio 2 n I.
 *
 * @returns null where the column or the target does not vary, or there are too few rows
 */
export function statisticOf(by: ScreenBy, column: Side, target: Side): Statistic | null {
  if (by !== 'anova') return ofCounts(by, codesOf(column), codesOf(target));
  if (column.kind === 'numbers')
    return target.kind === 'numbers' ? line(column.values, target.values) : oneWay(column.values, target);
  return target.kind === 'numbers' ? oneWay(target.values, column) : null;
}

/** A side as codes. */
export const codesOf = (side: Side): Side & { kind: 'codes' } =>
  side.kind === 'codes' ? side : partsOf(side.values);

function ofCounts(
  by: 'chi-square' | 'mutual-information',
  column: Side & { kind: 'codes' },
  target: Side & { kind: 'codes' },
): Statistic | null {
  const counts = new Float64Array(column.count * target.count);
  const rows = new Float64Array(column.count);
  const columns = new Float64Array(target.count);
  let n = 0;
  for (let i = 0; i < column.codes.length; i++) {
    const [a, b] = [column.codes[i] ?? -1, target.codes[i] ?? -1];
    if (a < 0 || b < 0) continue;
    const cell = a * target.count + b;
    counts[cell] = (counts[cell] ?? 0) + 1;
    rows[a] = (rows[a] ?? 0) + 1;
    columns[b] = (columns[b] ?? 0) + 1;
    n++;
  }
  const [height, width] = [rows, columns].map((sums) => sums.filter((own) => own > 0).length);
  if (height === undefined || width === undefined || height < 2 || width < 2) return null;
  const df = (height - 1) * (width - 1);
  let total = 0;
  rows.forEach((row, a) =>
    columns.forEach((own, b) => {
      const expected = (row * own) / n;
      const seen = counts[a * target.count + b] ?? 0;
      if (expected === 0) return;
      if (by === 'chi-square') total += (seen - expected) ** 2 / expected;
      else if (seen > 0) total += seen * Math.log(seen / expected);
    }),
  );
  return by === 'chi-square'
    ? { value: total, p: chiSquareAbove(total, df) }
    : { value: total / n, p: chiSquareAbove(2 * total, df) };
}

/** One-way analysis of variance of numbers by codes. */
function oneWay(values: Float64Array, { codes, count }: Side & { kind: 'codes' }): Statistic | null {
  const sums = new Float64Array(count);
  const sizes = new Float64Array(count);
  let [n, sum] = [0, 0];
  for (let i = 0; i < values.length; i++) {
    const [code, value] = [codes[i] ?? -1, values[i] ?? NaN];
    if (code < 0 || Number.isNaN(value)) continue;
    sums[code] = (sums[code] ?? 0) + value;
    sizes[code] = (sizes[code] ?? 0) + 1;
    sum += value;
    n++;
  }
  const mean = sum / n;
  let within = 0;
  for (let i = 0; i < values.length; i++) {
    const [code, value] = [codes[i] ?? -1, values[i] ?? NaN];
    if (code < 0 || Number.isNaN(value)) continue;
    within += (value - at(sums, code) / at(sizes, code)) ** 2;
  }
  let [between, groups] = [0, 0];
  sizes.forEach((size, code) => {
    if (size === 0) return;
    groups++;
    between += size * (at(sums, code) / size - mean) ** 2;
  });
  return ofSquares(between, within, groups - 1, n - groups);
}

/** The F of a straight line of one side on the other. */
function line(x: Float64Array, y: Float64Array): Statistic | null {
  let [n, sumX, sumY] = [0, 0, 0];
  const isKnown = (i: number) => !Number.isNaN((x[i] ?? NaN) + (y[i] ?? NaN));
  for (let i = 0; i < x.length; i++) {
    if (!isKnown(i)) continue;
    n++;
    sumX += x[i] ?? 0;
    sumY += y[i] ?? 0;
  }
  const [meanX, meanY] = [sumX / n, sumY / n];
  let [xx, yy, xy] = [0, 0, 0];
  for (let i = 0; i < x.length; i++) {
    if (!isKnown(i)) continue;
    const [dx, dy] = [(x[i] ?? 0) - meanX, (y[i] ?? 0) - meanY];
    xx += dx * dx;
    yy += dy * dy;
    xy += dx * dy;
  }
  if (!(xx > 0 && yy > 0)) return null;
  const explained = (xy * xy) / xx;
  return ofSquares(explained, Math.max(0, yy - explained), 1, n - 2);
}

/** Spread within, relative to that between, that rounding alone leaves. */
const ROUNDING = 1e-14;

function ofSquares(between: number, within: number, df1: number, df2: number): Statistic | null {
  if (df1 < 1 || df2 < 1 || !(between + within > 0)) return null;
  if (within <= ROUNDING * between) return { value: Infinity, p: 0 };
  const value = between / df1 / (within / df2);
  return { value, p: fAbove(value, df1, df2) };
}
