import { at } from '../../foundation/numbers.js';
import type { Scores, Summary } from './scores.js';
import type { TreeColumn } from '../trees/columns.js';

/** A way of splitting the rows of a node. */
export interface Candidate {
  /** Place of the column. */
  readonly place: number;
  readonly children: number;
  /** Impurity of the children, each times its rows; rows with a missing value take no part in it. */
  readonly left: number;
  /** Fall of the impurity per row. */
  readonly gain: number;
  /** Weight of the rows of each child. */
  readonly weights: readonly number[];
  /** The child of a row; −1 where its value is missing. */
  readonly childOf: (row: number) => number;
  readonly threshold: number;
  readonly levelSides: readonly number[];
}

export interface Search {
  readonly place: number;
  /** Rows of the node in the order of the column, from `from` to `to`. */
  readonly rows: Int32Array;
  readonly from: number;
  readonly to: number;
  readonly scores: Scores;
  /** Of all rows of the node. */
  readonly summary: Summary;
  readonly rowsPerLeaf: number;
}

/** The threshold that leaves the least impurity, half-way between two values; null where there is none. */
export function bestThreshold(
  { values }: Extract<TreeColumn, { kind: 'number' }>,
  { place, rows, from, to, scores, summary, rowsPerLeaf }: Search,
): Candidate | null {
  let end = to;
  while (end > from && Number.isNaN(values[rows[end - 1] ?? 0])) end--;
  const first = values[rows[from] ?? 0] ?? 0;
  if (end - from < 2 * rowsPerLeaf || first === values[rows[end - 1] ?? 0]) return null;
  const present = end === to ? summary : scores.summary(rows, from, end);
  scores.begin(present);
  let [left, threshold, weight] = [Infinity, NaN, 0];
  let value = first;
  for (let i = from; i < end - rowsPerLeaf; i++) {
    const row = rows[i] ?? 0;
    scores.move(row);
    const next = values[rows[i + 1] ?? 0] ?? 0;
    if (next === value) continue;
    if (i + 1 - from >= rowsPerLeaf) {
      const own = scores.left();
      if (own < left - scores.alike * present.rows) {
        left = own;
        weight = scores.leftWeight();
        const middle = value + (next - value) / 2;
        threshold = middle < next ? middle : value;
      }
    }
    value = next;
  }
  if (left === Infinity) return null;
  return {
    place,
    children: 2,
    left: scaled(left, present, summary),
    gain: present.impurity - left / present.rows,
    weights: [weight, present.rows - weight],
    childOf: (row) => {
      const own = values[row] ?? NaN;
      return Number.isNaN(own) ? -1 : own <= threshold ? 0 : 1;
    },
    threshold,
    levelSides: [],
  };
}

/** Rows with a missing value are as impure after a split as the node was: what they are not split by does not help. */
const scaled = (left: number, present: Summary, all: Summary): number =>
  left + (all.rows - present.rows) * all.impurity;

/**
 * The levels on either side that leave the least impurity, or one child for each level.
 *
 * For two sides levels stand in the order of their mean, or of the share of a class, and are split where that is best:
 * for numbers and two classes no other split is better (Breiman and others, 1984, 4.2.2); for more classes the order by
 * each class is tried, and a better split may exist.
 */
export function bestByLevel(
  column: Extract<TreeColumn, { kind: 'category' }>,
  search: Search,
  branches: 'two' | 'each',
): Candidate | null {
  const { rows, from, to, scores, rowsPerLeaf } = search;
  const groups = column.levels.map(() => [] as number[]);
  let present = 0;
  for (let i = from; i < to; i++) {
    const code = column.codes[rows[i] ?? 0] ?? -1;
    if (code < 0) continue;
    at(groups, code).push(rows[i] ?? 0);
    present++;
  }
  // A level whose rows weigh nothing has no impurity, and goes with most rows.
  const levels = groups
    .map((own, level) => ({
      level,
      rows: own,
      summary: scores.summary(Int32Array.from(own), 0, own.length),
    }))
    .filter(({ summary }) => summary.rows > 0);
  if (levels.length < 2) return null;
  const all =
    present === to - from
      ? search.summary
      : scores.summary(Int32Array.from(levels.flatMap((one) => one.rows)), 0, present);
  if (branches === 'each') {
    if (levels.some((one) => one.rows.length < rowsPerLeaf)) return null;
    const left = levels.reduce((sum, { summary }) => sum + summary.rows * summary.impurity, 0);
    const sides = column.levels.map((_, level) => levels.findIndex((one) => one.level === level));
    return candidateOf(
      column,
      search,
      all,
      left,
      sides,
      levels.map(({ summary }) => summary.rows),
    );
  }
  let best: { left: number; sides: number[]; weight: number } | null = null;
  const classes = all.sums.length;
  // Of numbers the first sum is the mean, of classes each has its own; the first of two is enough.
  const orders = classes === 2 ? 1 : classes;
  for (let k = 0; k < orders; k++) {
    const shareOf = ({ summary: { sums, rows: n } }: (typeof levels)[number]) =>
      (sums[k] ?? 0) / (scores.isNumbers ? 1 : n);
    const ordered = [...levels].sort((a, b) => shareOf(a) - shareOf(b) || a.level - b.level);
    scores.begin(all);
    let moved = 0;
    const sides = column.levels.map((_, level): number => (at(groups, level).length > 0 ? 1 : -1));
    for (const { level, rows: own } of ordered.slice(0, -1)) {
      for (const row of own) scores.move(row);
      moved += own.length;
      sides[level] = 0;
      if (moved < rowsPerLeaf || present - moved < rowsPerLeaf) continue;
      const left = scores.left();
      if (best === null || left < best.left - scores.alike * all.rows)
        best = { left, sides: [...sides], weight: scores.leftWeight() };
    }
  }
  return (
    best && candidateOf(column, search, all, best.left, best.sides, [best.weight, all.rows - best.weight])
  );
}

function candidateOf(
  column: Extract<TreeColumn, { kind: 'category' }>,
  { place, summary }: Search,
  present: Summary,
  left: number,
  levelSides: readonly number[],
  weights: readonly number[],
): Candidate {
  return {
    place,
    children: weights.length,
    left: scaled(left, present, summary),
    gain: present.impurity - left / present.rows,
    weights,
    childOf: (row) => levelSides[column.codes[row] ?? -1] ?? -1,
    threshold: NaN,
    levelSides,
  };
}
