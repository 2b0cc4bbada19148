import type { Importance } from '../contract/description.js';
import { isLeaf, type TreeState } from './state.js';

/**
 * Impurity importance: for each column the fall of impurity at its splits, times their rows, all of them summing to 1
 * (scikit-learn, feature_importances_). Columns of many values are overrated by it.
 */
export function treeImportances(state: TreeState): Importance[] {
  const sums = new Map<string, number>();
  let total = 0;
  for (const node of state.nodes) {
    if (node.split === null || isLeaf(node, state)) continue;
    const fall = node.rows * node.split.gain;
    sums.set(node.split.name, (sums.get(node.split.name) ?? 0) + fall);
    total += fall;
  }
  return [...sums]
    .map(([feature, sum]) => ({ feature, share: total > 0 ? sum / total : 0 }))
    .sort((a, b) => b.share - a.share);
}
