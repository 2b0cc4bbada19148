import { bitOf } from '../trees/compact-tree.js';
import type { BinnedColumn } from './bins.js';

/** Sums of a node's rows in each bin of each column, one column after another. */
export interface Histogram {
  /** Gradient and second derivative, side by side. */
  readonly sums: Float64Array;
  readonly rows: Int32Array;
}

/** Sums of the rows of a node. */
export interface NodeTotals {
  readonly gradient: number;
  readonly hessian: number;
  readonly rows: number;
}

/** How a node is split best; the sums are those of its low child. */
export interface BoostedSplit extends NodeTotals {
  readonly column: number;
  /** Of numbers the last bin that goes to the low child; of a category −1. */
  readonly bin: number;
  /** As a compact tree has it. */
  readonly threshold: number;
  readonly missingHigh: boolean;
  readonly gain: number;
}

export interface SplitLimits {
  readonly rowsPerLeaf: number;
  /** Added to the second derivative of every leaf (L2). */
  readonly penalty: number;
}

/** Gains that differ by less than this share of what the first tree could gain are the same: rounding alone makes them differ. */
const SAME_GAIN = 1e-10;

/**
 * The least difference between two gains that is more than rounding, in every tree of a model.
 *
 * @param gradients of the first tree
 * @param hessians of the first tree
 */
export function leastGain(gradients: Float64Array, hessians: Float64Array): number {
  let gradient = 0;
  let hessian = 0;
  for (let i = 0; i < gradients.length; i++) {
    gradient += Math.abs(gradients[i] ?? 0);
    hessian += hessians[i] ?? 0;
  }
  return hessian > 0 ? (SAME_GAIN * gradient * gradient) / hessian : 0;
}

/** A child whose second derivative is below it says nothing. */
const LEAST_HESSIAN = 1e-3;

/** Keeps the best split that has been met, while sums are added to the low side. */
export class BestSplit {
  found: BoostedSplit | null = null;
  column = 0;
  gradient = 0;
  hessian = 0;
  rows = 0;
  private most = 0;
  private readonly own: number;

  constructor(
    readonly totals: NodeTotals,
    private readonly limits: SplitLimits,
    private readonly leastGain: number,
  ) {
    this.own = totals.gradient ** 2 / (totals.hessian + limits.penalty);
  }

  /** What is on the low side from the beginning. */
  begin(gradient = 0, hessian = 0, rows = 0): void {
    this.gradient = gradient;
    this.hessian = hessian;
    this.rows = rows;
  }

  /** Adds bins to the low side one after another. @returns the bin after which the split is best; −1 where none is better than before */
  addBins({ sums, rows: inBins }: Histogram, start: number, bins: number): number {
    const { totals, limits, own, leastGain } = this;
    const { rowsPerLeaf, penalty } = limits;
    let { gradient, hessian, rows, most } = this;
    let best = -1;
    for (let bin = 0; bin < bins; bin++) {
      const inBin = inBins[start + bin] ?? 0;
      if (inBin === 0) continue;
      const place = 2 * (start + bin);
      gradient += sums[place] ?? 0;
      hessian += sums[place + 1] ?? 0;
      rows += inBin;
      if (rows < rowsPerLeaf) continue;
      if (totals.rows - rows < rowsPerLeaf) break;
      const otherGradient = totals.gradient - gradient;
      const otherHessian = totals.hessian - hessian;
      if (hessian < LEAST_HESSIAN || otherHessian < LEAST_HESSIAN) continue;
      const gain =
        (gradient * gradient) / (hessian + penalty) +
        (otherGradient * otherGradient) / (otherHessian + penalty) -
        own;
      if (!(gain > most + leastGain)) continue;
      most = gain;
      best = bin;
      this.gradient = gradient;
      this.hessian = hessian;
      this.rows = rows;
    }
    this.most = most;
    return best;
  }

  keep(bin: number, threshold: number, missingHigh: boolean): void {
    const { column, gradient, hessian, rows, most } = this;
    this.found = { column, gradient, hessian, rows, bin, threshold, missingHigh, gain: most };
  }
}

export function byThreshold(
  search: BestSplit,
  histogram: Histogram,
  start: number,
  column: BinnedColumn,
): void {
  const { count, edges, hasMissing } = column;
  const missing = start + count;
  const isMissingMet = hasMissing && (histogram.rows[missing] ?? 0) > 0;
  // With missing values on the high side; then all known values may be the low side.
  search.begin();
  const high = search.addBins(histogram, start, isMissingMet ? count : count - 1);
  if (high >= 0) search.keep(high, edges[high] ?? Number.MAX_VALUE, isMissingMet || isHighLarger(search));
  if (!isMissingMet) return;
  search.begin(histogram.sums[2 * missing], histogram.sums[2 * missing + 1], histogram.rows[missing]);
  const low = search.addBins(histogram, start, count - 1);
  if (low >= 0) search.keep(low, edges[low] ?? 0, false);
}

/** Where no training row of the node has a missing value, later ones go with most rows. */
const isHighLarger = ({ rows, totals }: BestSplit): boolean => rows < totals.rows - rows;

/** Levels in the order of their mean step, split where that is best (Fisher, 1958); missing values are a level too. */
export function byLevel(search: BestSplit, histogram: Histogram, start: number, count: number): void {
  const present: number[] = [];
  for (let level = 0; level <= count; level++)
    if ((histogram.rows[start + level] ?? 0) > 0) present.push(level);
  if (present.length < 2) return;
  const stepOf = (level: number) =>
    (histogram.sums[2 * (start + level)] ?? 0) / ((histogram.sums[2 * (start + level) + 1] ?? 0) + 1e-12);
  const steps = new Map(present.map((level) => [level, stepOf(level)]));
  const order = [...present].sort((a, b) => (steps.get(a) ?? 0) - (steps.get(b) ?? 0) || a - b);
  const isMissingMet = present.at(-1) === count;
  let set = 0;
  let isMissingLow = false;
  let [gradient, hessian, rows] = [0, 0, 0];
  for (const level of order.slice(0, -1)) {
    search.begin(gradient, hessian, rows);
    const isBetter = search.addBins(histogram, start + level, 1) >= 0;
    gradient += histogram.sums[2 * (start + level)] ?? 0;
    hessian += histogram.sums[2 * (start + level) + 1] ?? 0;
    rows += histogram.rows[start + level] ?? 0;
    if (level === count) isMissingLow = true;
    else set += bitOf(level);
    if (!isBetter) continue;
    const missingHigh = isMissingMet ? !isMissingLow : isHighLarger(search);
    search.keep(-1, missingHigh ? set : set + unmet(present, count), missingHigh);
  }
}

/** Levels that no row of the node has, as a set: they go where missing values go. */
function unmet(present: readonly number[], count: number): number {
  let set = 0;
  for (let level = 0; level < count; level++) if (!present.includes(level)) set += bitOf(level);
  return set;
}
