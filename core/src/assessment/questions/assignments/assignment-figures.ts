import { at } from '../../../foundation/numbers.js';
import type { RowsKey } from './key.js';

type Strata = NonNullable<RowsKey['strata']>;

/** Rows of each part or fold. */
export function sizesOf(assigned: Int32Array, parts: number): number[] {
  const sizes = new Array<number>(parts).fill(0);
  for (const part of assigned) if (part >= 0) sizes[part] = (sizes[part] ?? 0) + 1;
  return sizes;
}

/** Rows of each class in each part. */
export interface StrataCounts {
  readonly sizes: readonly number[];
  /** Of the class `code` in a part: `counts[part * labels + code]`. */
  readonly counts: Int32Array;
  /** Of each class in all parts. */
  readonly whole: Int32Array;
}

export function strataCounts(assigned: Int32Array, parts: number, { labels, codes }: Strata): StrataCounts {
  const counts = new Int32Array(parts * labels.length);
  const whole = new Int32Array(labels.length);
  codes.forEach((code, row) => {
    if (code < 0) return;
    whole[code] = (whole[code] ?? 0) + 1;
    const cell = (assigned[row] ?? 0) * labels.length + code;
    counts[cell] = (counts[cell] ?? 0) + 1;
  });
  return { sizes: sizesOf(assigned, parts), counts, whole };
}

/**
 * The largest difference between a part and all rows: of the share of a class, or of the distribution of numbers (the
 * Kolmogorov–Smirnov distance). Parts without rows are left out.
 */
export function largestShareDifference(assigned: Int32Array, parts: number, strata: Strata): number {
  if (strata.values) return Math.max(...distances(assigned, parts, strata.values));
  const n = assigned.length;
  const { sizes, counts, whole } = strataCounts(assigned, parts, strata);
  let most = 0;
  sizes.forEach((size, part) => {
    if (size === 0) return;
    whole.forEach((all, code) => {
      const off = Math.abs((counts[part * whole.length + code] ?? 0) / size - all / n);
      if (off > most) most = off;
    });
  });
  return most;
}

/**
 * Kolmogorov–Smirnov distance of each part's numbers from those of all rows; 0 for a part without numbers. Rows without a
 * number are left out.
 */
export function distances(assigned: Int32Array, parts: number, values: Float64Array): number[] {
  const rows = Array.from(values.keys()).filter((row) => !Number.isNaN(at(values, row)));
  rows.sort((a, b) => at(values, a) - at(values, b));
  const sizes = new Array<number>(parts).fill(0);
  for (const row of rows) sizes[at(assigned, row)] = at(sizes, at(assigned, row)) + 1;
  const seen = new Array<number>(parts).fill(0);
  const most = new Array<number>(parts).fill(0);
  rows.forEach((row, i) => {
    const part = at(assigned, row);
    seen[part] = at(seen, part) + 1;
    const next = rows[i + 1];
    // Equal numbers are passed together.
    if (next !== undefined && values[next] === values[row]) return;
    const all = (i + 1) / rows.length;
    for (let one = 0; one < parts; one++)
      if (at(sizes, one) > 0)
        most[one] = Math.max(at(most, one), Math.abs(at(seen, one) / at(sizes, one) - all));
  });
  return most;
}

/** The greatest of values from 0 on; a list may be too long to be spread. */
export const greatest = (values: readonly number[] | Int32Array): number => {
  let most = 0;
  for (const value of values) if (value > most) most = value;
  return most;
};
