import type { Target } from '../prepared/target.js';
import { leafOf, type CompactTree, type TreeInputs } from '../trees/compact-tree.js';

/**
 * The error of rows as the trees predict them that were grown without them, kept up to date as trees are added: what held-out
 * rows would show, without holding any out (Breiman, Out-of-bag estimation, 1996). The share of wrong classes or the mean
 * squared error, each row by its weight; rows that every tree has seen so far take no part.
 */
export class OutOfBag {
  private readonly sums: Float64Array;
  private readonly trees: Int32Array;
  private readonly lost: Float64Array;
  private readonly outputs: number;
  private lossSum = 0;
  private weightSum = 0;

  constructor(
    private readonly target: Target,
    private readonly weights: Float64Array,
    private readonly inputs: TreeInputs,
  ) {
    const rowCount = weights.length;
    this.outputs = target.kind === 'numbers' ? 1 : target.labels.length;
    this.sums = new Float64Array(rowCount * this.outputs);
    this.trees = new Int32Array(rowCount);
    this.lost = new Float64Array(rowCount);
  }

  /**
   * Takes up a tree.
   *
   * @param isIn 1 for the rows that it has seen
   * @returns the error so far; NaN while every row has been seen by every tree
   */
  add(tree: CompactTree, isIn: Uint8Array): number {
    const { sums, trees, lost, outputs, weights } = this;
    for (let row = 0; row < weights.length; row++) {
      const weight = weights[row] ?? 0;
      if (isIn[row] || weight === 0) continue;
      const leaf = leafOf(tree, this.inputs, row) * outputs;
      const first = row * outputs;
      for (let k = 0; k < outputs; k++)
        sums[first + k] = (sums[first + k] ?? 0) + (tree.values[leaf + k] ?? 0);
      if (trees[row] === 0) this.weightSum += weight;
      trees[row] = (trees[row] ?? 0) + 1;
      const loss = weight * this.lossOf(row);
      this.lossSum += loss - (lost[row] ?? 0);
      lost[row] = loss;
    }
    return this.weightSum > 0 ? Math.max(0, this.lossSum) / this.weightSum : NaN;
  }

  private lossOf(row: number): number {
    const { target, sums, outputs } = this;
    const trees = this.trees[row] ?? 1;
    if (target.kind === 'numbers') return ((sums[row] ?? 0) / trees - (target.values[row] ?? 0)) ** 2;
    const first = row * outputs;
    let best = 0;
    for (let k = 1; k < outputs; k++) if ((sums[first + k] ?? 0) > (sums[first + best] ?? 0)) best = k;
    const { positive } = target;
    if (positive !== null && (sums[first + positive] ?? 0) / trees >= 0.5) best = positive;
    return best === target.codes[row] ? 0 : 1;
  }
}
