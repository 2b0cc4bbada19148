import { at } from '../../foundation/numbers.js';
import type { Sample } from '../contract/sample.js';
import type { StateForm } from '../contract/state.js';
import { pathTo } from './path.js';
import { treeColumns, type TreeColumn } from '../trees/columns.js';
import { leafCount, type TreeSplit, type TreeState } from './state.js';

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

export const treeForm: StateForm<TreeState> = {
  name: 'tree',
  predict: predictTree,
  explain: (state, one) => {
    const [leaf = 0] = leavesOf(state, one);
    return { kind: 'path', conditions: pathTo(state, one, leaf), rows: at(state.nodes, leaf).rows };
  },
  sizeOf: (state) => ({ count: leafCount(state), of: 'leaves' }),
};
