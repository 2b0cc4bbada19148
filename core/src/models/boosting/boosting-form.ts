import { softmax } from '../contract/softmax.js';
import type { StateForm } from '../contract/state.js';
import { addTree, countLeaves, treeInputs, type CompactTree } from '../trees/compact-tree.js';

export interface BoostingState {
  readonly form: 'boosting';
  /** Of each round one tree for each score, in their order. */
  readonly trees: readonly CompactTree[];
  /** The scores that the trees are added to: one, or one for each class. */
  readonly starts: readonly number[];
  /** What scores stand for: numbers, log-odds of a class among two, or logarithms of shares. */
  readonly scores: 'numbers' | 'log-odds' | 'classes';
  /** The class whose log-odds they are; null where they are none. */
  readonly positive: number | null;
}

export const boostingForm: StateForm<BoostingState> = {
  name: 'boosting',
  predict: ({ trees, starts, scores, positive }, { features, rowCount }) => {
    const inputs = treeInputs(features);
    const sums = starts.map((start) => new Float64Array(rowCount).fill(start));
    trees.forEach((tree, t) => {
      const sum = sums[t % starts.length];
      if (sum) addTree(tree, inputs, [sum]);
    });
    const [first = new Float64Array(rowCount)] = sums;
    if (scores === 'numbers') return [first];
    if (scores === 'classes') return softmax(sums);
    const own = first.map((score) => 1 / (1 + Math.exp(-score)));
    const other = first.map((score) => 1 / (1 + Math.exp(score)));
    return positive === 0 ? [own, other] : [other, own];
  },
  sizeOf: ({ trees }) => ({ count: trees.reduce((sum, tree) => sum + countLeaves(tree), 0), of: 'leaves' }),
};
