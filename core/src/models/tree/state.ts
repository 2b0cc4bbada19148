import type { StateForm } from '../contract/state.js';
import { at } from '../../foundation/numbers.js';
import type { Sample } from '../contract/sample.js';
import type { Feature } from '../prepared/recipe.js';

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

/** A column that a tree can split rows by. */
export type TreeColumn =
  | {
      readonly kind: 'number';
      readonly name: string;
      readonly feature: string;
      readonly values: Float64Array;
    }
  | {
      readonly kind: 'category';
      readonly name: string;
      readonly feature: string;
      readonly levels: readonly string[];
      readonly codes: Int32Array;
    };

/** Features as a tree sees them: each word of a text is a column of numbers. */
export const treeColumns = (features: readonly Feature[]): TreeColumn[] =>
  features.flatMap((feature): TreeColumn[] => {
    const { name } = feature;
    switch (feature.kind) {
      case 'number':
        return [{ kind: 'number', name, feature: name, values: feature.values }];
      case 'category':
        return [{ kind: 'category', name, feature: name, levels: feature.levels, codes: feature.codes }];
      case 'words':
        return feature.words.map((word, w) => ({
          kind: 'number',
          name: `${name}: ${word}`,
          feature: name,
          values: at(feature.counts, w),
        }));
    }
  });

/** A tree as arrays, which rows fall through faster than through objects. */
interface Flat {
  /** Of each node its column, −1 for a leaf. */
  readonly columns: Int32Array;
  readonly thresholds: Float64Array;
  /** The children of a threshold; of levels the first stands for all. */
  readonly lows: Int32Array;
  readonly highs: Int32Array;
  /** Where rows with a missing value go; the node itself where they stop. */
  readonly missing: Int32Array;
}

function flatten({ nodes, depth, missing }: TreeState): Flat {
  const flat: Flat = {
    columns: new Int32Array(nodes.length).fill(-1),
    thresholds: new Float64Array(nodes.length),
    lows: new Int32Array(nodes.length),
    highs: new Int32Array(nodes.length),
    missing: new Int32Array(nodes.length),
  };
  nodes.forEach(({ split, depth: own }, place) => {
    if (!split || own >= depth) return;
    flat.columns[place] = split.column;
    flat.missing[place] = missing === 'stop' ? place : split.most;
    if (split.kind !== 'threshold') return;
    flat.thresholds[place] = split.threshold;
    flat.lows[place] = split.children[0] ?? place;
    flat.highs[place] = split.children[1] ?? place;
  });
  return flat;
}

/** The leaf that each row falls into, as its place among the nodes. */
function leavesOf(state: TreeState, sample: Sample): Int32Array {
  const columns = treeColumns(sample.features);
  const numbers = columns.map((column) => (column.kind === 'number' ? column.values : null));
  const { columns: columnAt, thresholds, lows, highs, missing } = flatten(state);
  const leaves = new Int32Array(sample.rowCount);
  for (let row = 0; row < sample.rowCount; row++) {
    let place = 0;
    for (;;) {
      const column = columnAt[place] ?? -1;
      if (column < 0) break;
      const values = numbers[column];
      const value = values?.[row] ?? NaN;
      let next = missing[place] ?? 0;
      if (!values) next = branchOf(state.nodes[place]?.split, columns[column], row) ?? next;
      else if (!Number.isNaN(value))
        next = (value <= (thresholds[place] ?? 0) ? lows[place] : highs[place]) ?? 0;
      if (next === place) break;
      place = next;
    }
    leaves[row] = place;
  }
  return leaves;
}

/** The child that a level goes to; undefined where it is missing or was never met at the node. */
function branchOf(
  split: TreeSplit | null | undefined,
  column: TreeColumn | undefined,
  row: number,
): number | undefined {
  const code = column?.kind === 'category' ? (column.codes[row] ?? -1) : -1;
  return split?.kind === 'levels' ? split.children[split.childOf[code] ?? -1] : undefined;
}

function predictTree(state: TreeState, sample: Sample): Float64Array[] {
  const leaves = leavesOf(state, sample);
  return Array.from({ length: Math.max(1, state.classes) }, (_, label) => {
    const ofNode = Float64Array.from(state.nodes, ({ rows, values }) =>
      state.classes === 0 ? at(values, 0) : at(values, label) / rows,
    );
    const out = new Float64Array(leaves.length);
    for (let row = 0; row < out.length; row++) out[row] = ofNode[leaves[row] ?? 0] ?? 0;
    return out;
  });
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

export const treeForm: StateForm<TreeState> = {
  name: 'tree',
  predict: predictTree,
  sizeOf: (state) => ({ count: leafCount(state), of: 'leaves' }),
};
