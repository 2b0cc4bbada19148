import { at } from '../../foundation/numbers.js';
import { hasLevel, TreeBuilder, type CompactTree } from '../trees/compact-tree.js';
import { RowParter } from '../trees/part-rows.js';
import type { BinnedColumn } from './bins.js';
import type { BoostedSplit, Histogram, NodeTotals, SplitLimits } from './best-split.js';
import { Histograms } from './histogram.js';

export interface BoostedTreeOptions extends SplitLimits {
  readonly leaves: number;
  readonly depth: number;
  readonly learningRate: number;
}

/** A leaf that may still be split. */
interface Leaf {
  readonly place: number;
  readonly from: number;
  readonly to: number;
  readonly depth: number;
  readonly totals: NodeTotals;
  readonly histogram: Histogram | null;
  readonly split: BoostedSplit | null;
}

/** What a tree of a round learns from. */
export interface RoundTarget {
  readonly gradients: Float64Array;
  readonly hessians: Float64Array;
  /** A gain that is not larger than another by this much is the same. */
  readonly leastGain: number;
  /** What a leaf adds at best to the scores of its rows; null for −G / (H + penalty). */
  readonly leaf: ((rows: Int32Array, from: number, to: number) => number) | null;
}

/**
 * Grows the trees of boosting: the leaf whose split makes the loss fall most is split first, until there are enough leaves
 * (Friedman, Greedy function approximation, 2001; Ke and others, LightGBM, 2017).
 */
export class BoostedGrower {
  private readonly histograms: Histograms;
  private readonly members: Int32Array;
  private readonly parter: RowParter;

  /** @param rows that a tree learns from */
  constructor(
    private readonly columns: readonly BinnedColumn[],
    private readonly rows: Int32Array,
    private readonly options: BoostedTreeOptions,
  ) {
    this.histograms = new Histograms(columns, options, rows.length);
    this.members = rows.slice();
    this.parter = new RowParter(rows.length);
  }

  /**
   * @param steps set to what the tree adds to the score of every row that it learned from
   * @param gains for each column the fall of the loss at its splits, added to
   */
  grow(target: RoundTarget, steps: Float64Array, gains: Float64Array): CompactTree {
    const { members, options, histograms } = this;
    members.set(this.rows);
    const tree = new TreeBuilder(1);
    const gradient = sum(target.gradients);
    const hessian = sum(target.hessians);
    const root = {
      place: 0,
      from: 0,
      to: members.length,
      depth: 0,
      totals: { gradient, hessian, rows: members.length },
    };
    const leaves = [this.open(root, target, options.leaves > 1 ? undefined : null)];
    while (leaves.length < options.leaves) {
      let widest = -1;
      leaves.forEach(({ split }, i) => {
        if (split && split.gain > (leaves[widest]?.split?.gain ?? 0) + target.leastGain) widest = i;
      });
      const leaf = leaves[widest];
      if (!leaf?.split) break;
      gains[leaf.split.column] = (gains[leaf.split.column] ?? 0) + leaf.split.gain;
      leaves.splice(
        widest,
        1,
        ...this.divide(tree, leaf, leaf.split, target, leaves.length + 1 < options.leaves),
      );
    }
    for (const { place, from, to, totals, histogram } of leaves) {
      const best = target.leaf
        ? target.leaf(members, from, to)
        : -totals.gradient / Math.max(1e-12, totals.hessian + options.penalty);
      const step = best * options.learningRate;
      tree.set(place, 0, step);
      setSteps(steps, members, from, to, step);
      if (histogram) histograms.release(histogram);
    }
    return tree.done();
  }

  /** A leaf with its best split. @param histogram null where it is not to be split, undefined where it is not known yet */
  private open(
    leaf: Omit<Leaf, 'histogram' | 'split'>,
    { gradients, hessians, leastGain }: RoundTarget,
    histogram: Histogram | null | undefined,
  ): Leaf {
    const own =
      histogram === undefined
        ? this.histograms.of(this.members, leaf.from, leaf.to, gradients, hessians)
        : histogram;
    const isSplit = own !== null && leaf.depth < this.options.depth;
    return {
      ...leaf,
      histogram: own,
      split: isSplit ? this.histograms.best(own, leaf.totals, leastGain) : null,
    };
  }

  /** Splits a leaf; the histogram of the larger child is what the smaller one leaves. @param isOpen whether the children may be split */
  private divide(
    tree: TreeBuilder,
    leaf: Leaf,
    split: BoostedSplit,
    target: RoundTarget,
    isOpen: boolean,
  ): [Leaf, Leaf] {
    const { histograms } = this;
    const middle = this.part(leaf, split);
    const place = tree.split(leaf.place, split.column, split.threshold, split.missingHigh);
    const depth = leaf.depth + 1;
    const { totals } = leaf;
    const low = { place, from: leaf.from, to: middle, depth, totals: split };
    const high = {
      place: place + 1,
      from: middle,
      to: leaf.to,
      depth,
      totals: {
        gradient: totals.gradient - split.gradient,
        hessian: totals.hessian - split.hessian,
        rows: totals.rows - split.rows,
      },
    };
    if (!isOpen || !leaf.histogram) {
      if (leaf.histogram) histograms.release(leaf.histogram);
      return [this.open(low, target, null), this.open(high, target, null)];
    }
    const isLowSmaller = split.rows * 2 <= totals.rows;
    const small = this.open(isLowSmaller ? low : high, target, undefined);
    const rest = small.histogram ? histograms.rest(leaf.histogram, small.histogram) : null;
    const large = this.open(isLowSmaller ? high : low, target, rest);
    return isLowSmaller ? [small, large] : [large, small];
  }

  /** Brings the rows of the low child before those of the high one. @returns where the high ones begin */
  private part({ from, to }: Leaf, { column, bin, threshold, missingHigh }: BoostedSplit): number {
    const { bins, count } = at(this.columns, column);
    const { side } = this.parter;
    // Whether each bin goes to the high child.
    const isHigh = Uint8Array.from({ length: count + 1 }, (_, own) => {
      if (own === count) return missingHigh ? 1 : 0;
      return (bin < 0 ? hasLevel(threshold, own) : own <= bin) ? 0 : 1;
    });
    sides(bins, this.members, from, to, isHigh, side);
    return this.parter.part(this.members, from, to);
  }
}

function sides(
  bins: Uint8Array,
  members: Int32Array,
  from: number,
  to: number,
  isHigh: Uint8Array,
  side: Uint8Array,
): void {
  for (let i = from; i < to; i++) side[i] = isHigh[bins[members[i] ?? 0] ?? 0] ?? 0;
}

function sum(values: Float64Array): number {
  let total = 0;
  for (let i = 0; i < values.length; i++) total += values[i] ?? 0;
  return total;
}

function setSteps(steps: Float64Array, members: Int32Array, from: number, to: number, step: number): void {
  for (let i = from; i < to; i++) steps[members[i] ?? 0] = step;
}
