import { at } from '../../foundation/numbers.js';

/** How the rows of a node are split: numbers at a threshold, categories by level. */
export type TreeSplit = {
  /** Place among the tree's columns. */
  readonly column: number;
  /** As the column is called. */
  readonly name: string;
  /** Places of the children among the nodes. */
  readonly children: readonly number[];
  /** The child that most training rows went to, which rows with a missing value follow. */
  readonly most: number;
  /** Fall of the impurity, per row of the node. */
  readonly gain: number;
} & (
  | { readonly kind: 'threshold'; readonly threshold: number }
  /** For each level the position of its child; −1 for one that no training row of the node had. */
  | { readonly kind: 'levels'; readonly levels: readonly string[]; readonly childOf: readonly number[] }
);

export interface TreeNode {
  readonly depth: number;
  /** Training rows, or the sum of their weights. */
  readonly rows: number;
  /** Rows of each class, or the mean of the numbers alone. */
  readonly values: readonly number[];
  readonly impurity: number;
  /** Null for a leaf. */
  readonly split: TreeSplit | null;
}

export interface TreeState {
  readonly form: 'tree';
  /** The root first, each node before its children. */
  readonly nodes: readonly TreeNode[];
  /** Nodes at this depth are leaves, whatever lies below them: one tree serves every depth. */
  readonly depth: number;
  /** Whether a row with a missing value goes on with most rows, or stops at the node. */
  readonly missing: 'most' | 'stop';
  /** 0 where numbers are predicted. */
  readonly classes: number;
}

/** Whether a node is a leaf of the tree as it is used. */
export const isLeaf = ({ split, depth }: TreeNode, state: Pick<TreeState, 'depth'>): boolean =>
  split === null || depth >= state.depth;

/** How many leaves a tree has as it is used. */
export function leafCount(state: TreeState, place = 0): number {
  const node = at(state.nodes, place);
  if (isLeaf(node, state)) return 1;
  return (node.split?.children ?? []).reduce((sum, child) => sum + leafCount(state, child), 0);
}
