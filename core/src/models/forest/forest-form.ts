import { quantile } from '../../foundation/numbers.js';
import type { StateForm } from '../contract/state.js';
import { addTree, countLeaves, leafOf, treeInputs, type CompactTree } from '../trees/compact-tree.js';

export interface ForestState {
  readonly form: 'forest';
  /** Each predicts shares of the classes, or a number. */
  readonly trees: readonly CompactTree[];
  /** 0 where numbers are predicted. */
  readonly classes: number;
}

export const forestForm: StateForm<ForestState> = {
  name: 'forest',
  predict: ({ trees, classes }, { features, rowCount }) => {
    const inputs = treeInputs(features);
    const sums = Array.from({ length: Math.max(1, classes) }, () => new Float64Array(rowCount));
    for (const tree of trees) addTree(tree, inputs, sums);
    for (const sum of sums)
      for (let row = 0; row < rowCount; row++) sum[row] = (sum[row] ?? 0) / trees.length;
    return sums;
  },
  explain: ({ trees, classes }, one) => {
    // Of classes the probabilities already are what the trees say.
    if (classes > 0) return null;
    const inputs = treeInputs(one.features);
    const said = Float64Array.from(trees, (tree) => tree.values[leafOf(tree, inputs, 0)] ?? NaN).sort();
    return {
      kind: 'spread',
      models: trees.length,
      low: quantile(said, 0.05),
      lowerQuartile: quantile(said, 0.25),
      upperQuartile: quantile(said, 0.75),
      high: quantile(said, 0.95),
    };
  },
  sizeOf: ({ trees }) => ({ count: trees.reduce((sum, tree) => sum + countLeaves(tree), 0), of: 'leaves' }),
};
