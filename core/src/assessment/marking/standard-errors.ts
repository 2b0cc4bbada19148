import { membersOf } from '../../metrics/intervals/bootstrap.js';
import { figureOf, resampled, type Judged } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';
import { at, indices } from '../../foundation/numbers.js';

/** How uncertain a score is, and its difference from an earlier one on the same rows. */
export interface StandardErrors {
  /** Standard error of the score. */
  readonly own: number;
  /** Of the difference; null where there is no earlier score. */
  readonly paired: number | null;
}

/** Blocks that the jackknife leaves out one after another, at most. */
const BLOCKS = 200;

/**
 * Standard errors by the jackknife: blocks of rows are left out one after another, single rows where there are few
 * enough, whole groups where rows come in groups (Efron and Tibshirani, An Introduction to the Bootstrap, 1993, 11.5;
 * for an average of rows it is the usual standard error).
 *
 * @param groups the group of each row, or null where rows are independent
 */
export function standardErrors(
  metric: Metric,
  judged: Judged,
  before: Judged | null,
  groups: Int32Array | null,
): StandardErrors {
  const n = judged.data.truth.length;
  const blocks = blocksOf(groups ? membersOf(groups) : Array.from(indices(n), (row) => Int32Array.of(row)));
  const block = new Int32Array(n);
  blocks.forEach((rows, b) => rows.forEach((row) => (block[row] = b)));
  const own: number[] = [];
  const paired: number[] = [];
  for (let b = 0; b < blocks.length; b++) {
    const rows = indices(n).filter((row) => block[row] !== b);
    const score = figureOf(metric, resampled(judged, rows)).value;
    if (score === null) continue;
    own.push(score);
    const other = before ? figureOf(metric, resampled(before, rows)).value : null;
    if (other !== null) paired.push(score - other);
  }
  return { own: jackknife(own), paired: before ? jackknife(paired) : null };
}

/** Rows or groups assigned to at most so many blocks. */
function blocksOf(members: readonly Int32Array[]): Int32Array[] {
  const blocks = Array.from({ length: Math.min(BLOCKS, members.length) }, (): number[] => []);
  members.forEach((rows, i) => {
    const block = at(blocks, i % blocks.length);
    for (const row of rows) block.push(row);
  });
  return blocks.map((rows) => Int32Array.from(rows));
}

/** √((n − 1)/n Σ (θ − mean)²). */
function jackknife(figures: readonly number[]): number {
  const n = figures.length;
  if (n < 2) return 0;
  const mean = figures.reduce((a, b) => a + b, 0) / n;
  return Math.sqrt(((n - 1) / n) * figures.reduce((sum, value) => sum + (value - mean) ** 2, 0));
}
