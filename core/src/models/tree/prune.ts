import { chanceOfAtMost } from '../../foundation/statistics/distributions.js';
import { at } from '../../foundation/numbers.js';
import type { TreeNode } from './state.js';

/** C4.5's usual confidence. */
const CONFIDENCE = 0.25;

/**
 * Penalties of a leaf at which a tree loses a branch, ascending from 0 (Breiman, Friedman, Olshen and Stone, 1984, 3.3;
 * scikit-learn, cost_complexity_pruning_path).
 */
export function pruningPath(nodes: readonly TreeNode[]): number[] {
  const path = [0];
  const cut = new Set<number>();
  for (;;) {
    const weakest = weakestLink(nodes, cut);
    if (!weakest) return path;
    path.push(Math.max(weakest.link, path.at(-1) ?? 0));
    weakest.places.forEach((place) => cut.add(place));
  }
}

/** The smallest subtree that minimises impurity per training row + penalty × leaves. */
export function pruneByCost(nodes: readonly TreeNode[], penalty: number): TreeNode[] {
  const cut = new Set<number>();
  for (;;) {
    const weakest = weakestLink(nodes, cut);
    if (!weakest || weakest.link > penalty + 1e-15) return withoutBranches(nodes, cut);
    weakest.places.forEach((place) => cut.add(place));
  }
}

/** The inner nodes whose branch gains least for each leaf, and that gain. */
function weakestLink(nodes: readonly TreeNode[], cut: ReadonlySet<number>) {
  const total = nodes[0]?.rows ?? 1;
  let link = Infinity;
  let places: number[] = [];
  const visit = (place: number): { cost: number; leaves: number } => {
    const { split, rows, impurity } = at(nodes, place);
    const own = (rows * impurity) / total;
    if (!split || cut.has(place)) return { cost: own, leaves: 1 };
    let [cost, leaves] = [0, 0];
    for (const child of split.children) {
      const below = visit(child);
      cost += below.cost;
      leaves += below.leaves;
    }
    const gain = (own - cost) / (leaves - 1);
    if (gain < link - 1e-15) places = [];
    if (gain <= link + 1e-15) {
      places.push(place);
      link = Math.min(link, gain);
    }
    return { cost, leaves };
  };
  visit(0);
  return places.length > 0 ? { link: Math.max(link, 0), places } : null;
}

/**
 * Replaces branches whose leaves promise no fewer errors than the node itself would make as a leaf, an error rate being
 * taken at the upper end of its confidence interval (Quinlan, C4.5, 1993, 4.2).
 */
export function pruneByErrors(nodes: readonly TreeNode[]): TreeNode[] {
  const cut = new Set<number>();
  const visit = (place: number): number => {
    const { split, rows, values } = at(nodes, place);
    const own = rows * upperError(Math.round(rows - Math.max(...values)), Math.round(rows));
    if (!split) return own;
    const below = split.children.reduce((sum, child) => sum + visit(child), 0);
    if (own <= below + 1e-9) {
      cut.add(place);
      return own;
    }
    return below;
  };
  visit(0);
  return withoutBranches(nodes, cut);
}

/** The error rate at which no more than the errors seen have a chance of a quarter (Clopper and Pearson, 1934). */
export function upperError(errors: number, rows: number): number {
  if (rows <= 0 || errors >= rows) return 1;
  if (errors === 0) return 1 - CONFIDENCE ** (1 / rows);
  let [low, high] = [errors / rows, 1];
  for (let step = 0; step < 50; step++) {
    const middle = (low + high) / 2;
    if (chanceOfAtMost(errors, rows, middle) > CONFIDENCE) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** The nodes that are left, renumbered. */
function withoutBranches(nodes: readonly TreeNode[], cut: ReadonlySet<number>): TreeNode[] {
  const kept: TreeNode[] = [];
  const visit = (place: number): number => {
    const node = at(nodes, place);
    const own = kept.length;
    kept.push({ ...node, split: null });
    if (!node.split || cut.has(place)) return own;
    const children = node.split.children.map(visit);
    const most = at(children, node.split.children.indexOf(node.split.most));
    kept[own] = { ...node, split: { ...node.split, children, most } };
    return own;
  };
  visit(0);
  return kept;
}
