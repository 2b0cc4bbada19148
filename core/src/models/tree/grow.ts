import { at, indices } from '../../foundation/numbers.js';
import type { Training } from '../contract/sample.js';
import { type Criterion, entropy } from './impurity.js';
import { classScores, numberScores, type Scores, type Summary } from './scores.js';
import { bestByLevel, bestThreshold, type Candidate } from './splits.js';
import { treeColumns, type TreeColumn } from '../trees/columns.js';
import { type TreeNode, type TreeSplit } from './state.js';

export interface GrowOptions {
  readonly criterion: Criterion;
  readonly depth: number;
  /** Fewest training rows of a leaf, and of a node that is split. */
  readonly rowsPerLeaf: number;
  readonly rowsPerSplit: number;
  /** Whether a category makes two branches or one for each level. */
  readonly branches: 'two' | 'each';
  /** A category with more levels parts nothing. */
  readonly mostLevels: number;
  /** The feature that the root is split by; null for the best. */
  readonly first: string | null;
}

/**
 * Rows in the order of one column's values, missing ones last. A node's rows stand side by side in every order, and
 * splitting keeps them in order, so that nothing is sorted twice.
 */
interface Ordered {
  readonly column: TreeColumn;
  readonly rows: Int32Array;
}

/**
 * Grows a tree: from the root down, each node is split where that leaves the least impurity, until all its rows are
 * alike or too few (Breiman, Friedman, Olshen and Stone, 1984; scikit-learn, DecisionTreeClassifier; R, rpart). Of
 * splits that are equally good the one of the earlier column, and of the lower threshold, is taken.
 */
export function growTree(training: Training, options: GrowOptions): TreeNode[] {
  const { target, weights, rowCount } = training;
  const scores =
    target.kind === 'numbers'
      ? numberScores(target.values, weights)
      : classScores(target.codes, target.labels.length, weights, options.criterion);
  const columns = treeColumns(training.features);
  const orders = columns.map((column) => ({ column, rows: inOrder(column, rowCount) }));
  const members = indices(rowCount);
  const side = new Uint8Array(rowCount);
  const buffer = new Int32Array(rowCount);
  const nodes: TreeNode[] = [];

  const grow = (from: number, to: number, depth: number): number => {
    const summary = scores.summary(members, from, to);
    const place = nodes.length;
    const values = target.kind === 'numbers' ? [at(summary.sums, 0)] : Array.from(summary.sums);
    const node = { depth, rows: summary.rows, values, impurity: summary.impurity };
    nodes.push({ ...node, split: null });
    const candidate =
      depth < options.depth && to - from >= options.rowsPerSplit && summary.impurity > scores.alike
        ? choose(orders, scores, summary, from, to, depth === 0 ? options.first : null, options)
        : null;
    if (!candidate) return place;
    const ends = part(candidate, from, to);
    const children: number[] = [];
    let start = from;
    let most = 0;
    ends.forEach((end, child) => {
      if (end - start > (ends[most] ?? 0) - (most === 0 ? from : (ends[most - 1] ?? 0))) most = child;
      children.push(grow(start, end, depth + 1));
      start = end;
    });
    nodes[place] = { ...node, split: splitOf(candidate, columns, children, at(children, most)) };
    return place;
  };

  /** Brings the rows of each child together in every order; gives the ends of the children. */
  const part = (candidate: Candidate, from: number, to: number): number[] => {
    const count = candidate.children;
    const sizes = new Array<number>(count).fill(0);
    for (let i = from; i < to; i++) {
      const row = members[i] ?? 0;
      const child = candidate.childOf(row);
      // Rows whose value is missing are known only when the others have been counted.
      side[row] = child < 0 ? 255 : child;
      if (child >= 0) sizes[child] = (sizes[child] ?? 0) + 1;
    }
    const most = sizes.indexOf(Math.max(...sizes));
    for (let i = from; i < to; i++) {
      const row = members[i] ?? 0;
      if (side[row] !== 255) continue;
      side[row] = most;
      sizes[most] = (sizes[most] ?? 0) + 1;
    }
    const ends: number[] = [];
    let end = from;
    for (const size of sizes) ends.push((end += size));
    for (const rows of [members, ...orders.map((order) => order.rows)]) {
      const next = [from, ...ends.slice(0, -1)];
      for (let i = from; i < to; i++) {
        const row = rows[i] ?? 0;
        const child = side[row] ?? 0;
        const place = next[child] ?? 0;
        buffer[place] = row;
        next[child] = place + 1;
      }
      rows.set(buffer.subarray(from, to), from);
    }
    return ends;
  };

  grow(0, rowCount, 0);
  return nodes;
}

function inOrder(column: TreeColumn, rowCount: number): Int32Array {
  const rows = indices(rowCount);
  if (column.kind === 'category') return rows;
  const { values } = column;
  const last = (row: number) => {
    const value = values[row] ?? NaN;
    return Number.isNaN(value) ? Infinity : value;
  };
  return rows.sort((a, b) => {
    const [x, y] = [last(a), last(b)];
    return x < y ? -1 : x > y ? 1 : a - b;
  });
}

function choose(
  orders: readonly Ordered[],
  scores: Scores,
  summary: Summary,
  from: number,
  to: number,
  forced: string | null,
  options: GrowOptions,
): Candidate | null {
  const candidates = orders.flatMap(({ column, rows }, place) => {
    if (forced !== null && column.feature !== forced) return [];
    const search = { place, rows, from, to, scores, summary, rowsPerLeaf: options.rowsPerLeaf };
    const found =
      column.kind === 'number'
        ? bestThreshold(column, search)
        : column.levels.length <= options.mostLevels
          ? bestByLevel(column, search, options.branches)
          : null;
    return found ? [found] : [];
  });
  // Where the forced feature parts nothing, the best one does.
  if (candidates.length === 0)
    return forced === null ? null : choose(orders, scores, summary, from, to, null, options);
  if (options.criterion !== 'gain-ratio' || forced !== null)
    return candidates.reduce((best, one) =>
      one.left < best.left - scores.alike * summary.rows ? one : best,
    );
  return byGainRatio(candidates, summary);
}

/** The best ratio of gain to the information of the split, among splits of at least average gain (Quinlan, C4.5, 1993, 2.3). */
function byGainRatio(candidates: readonly Candidate[], { rows, impurity }: Summary): Candidate {
  const gainOf = ({ left }: Candidate) => impurity - left / rows;
  const gains = candidates.map(gainOf).filter((gain) => gain > 1e-12);
  const average = gains.reduce((a, b) => a + b, 0) / Math.max(1, gains.length);
  const ratio = (one: Candidate) => {
    const information = entropy(
      one.weights,
      one.weights.reduce((a, b) => a + b, 0),
    );
    return information > 0 ? gainOf(one) / information : 0;
  };
  const worth = candidates.filter((one) => gainOf(one) >= average - 1e-12);
  return worth.reduce((best, one) => (ratio(one) > ratio(best) ? one : best));
}

function splitOf(
  candidate: Candidate,
  columns: readonly TreeColumn[],
  children: readonly number[],
  most: number,
): TreeSplit {
  const column = at(columns, candidate.place);
  const base = { column: candidate.place, name: column.name, children, most, gain: candidate.gain };
  return column.kind === 'number'
    ? { ...base, kind: 'threshold', threshold: candidate.threshold }
    : { ...base, kind: 'levels', levels: column.levels, childOf: candidate.levelSides };
}
