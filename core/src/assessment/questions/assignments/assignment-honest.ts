import { dealGroups } from '../../../splitting/algorithms/deal-groups.js';
import { dealAtRandom, dealStratified } from '../../../splitting/algorithms/deal.js';
import { at, indices } from '../../../foundation/numbers.js';
import { shuffle, type Random } from '../../../foundation/random/random.js';
import { apportion } from '../../../splitting/algorithms/apportion.js';
import { assignGroups } from '../../../splitting/algorithms/grouped.js';
import { splitAtRandom, splitStratified } from '../../../splitting/algorithms/random.js';
import { greatest, sizesOf } from './assignment-figures.js';
import type { RowsKey } from './key.js';

/** What an assignment of rows to parts or folds must keep. */
export interface AssignmentPlan {
  readonly rows: number;
  /** Share of each part; they sum to 1. */
  readonly shares: readonly number[];
  readonly isFolds: boolean;
  readonly strata: RowsKey['strata'];
  /** For each row the unit that stays whole: its group, its repeated rows, or both; null where rows are free. */
  readonly units: Int32Array | null;
  /** Ranks of the rows in the order of time; null where time is not asked for. */
  readonly time: Int32Array | null;
}

/** How programs assign whole units to parts. */
const MANNERS = ['counted', 'weighed', 'each by itself'] as const;

export type Manner = (typeof MANNERS)[number];

/**
 * Units that keep groups whole, repeated rows together, or both: rows that are linked either way share a unit.
 *
 * @param groups code of the group of each row, −1 for none; null where groups may be split
 * @param first for each row the first row with the same features; null where these may be split
 */
export function unitsOf(groups: Int32Array | null, first: Int32Array | null): Int32Array | null {
  if (!groups && !first) return null;
  const n = (groups ?? first ?? []).length;
  const parent = indices(n);
  const rootOf = (row: number): number => {
    let root = row;
    while (at(parent, root) !== root) root = at(parent, root);
    for (let one = row; one !== root;) {
      const next = at(parent, one);
      parent[one] = root;
      one = next;
    }
    return root;
  };
  const firstOfGroup = new Map<number, number>();
  for (let row = 0; row < n; row++) {
    const group = groups?.[row] ?? -1;
    const other = group < 0 ? row : (firstOfGroup.get(group) ?? row);
    if (group >= 0) firstOfGroup.set(group, other);
    parent[rootOf(row)] = rootOf(other);
    const same = first?.[row] ?? -1;
    if (same >= 0) parent[rootOf(row)] = rootOf(same);
  }
  const codeOf = new Map<number, number>();
  return indices(n).map((row) => {
    const root = rootOf(row);
    if (!codeOf.has(root)) codeOf.set(root, codeOf.size);
    return codeOf.get(root) ?? 0;
  });
}

/**
 * A random assignment as general-purpose libraries make it: rows in the order of time, whole units, each class by itself,
 * or single rows, cut at the shares. Units are counted (as scikit-learn's GroupShuffleSplit counts groups), weighed by
 * their rows, or each assigned by itself (as by a hash of its name), each a third of the time or as named.
 */
export function honestAssignment(plan: AssignmentPlan, random: Random, manner?: Manner): Int32Array {
  const { rows: n, shares, units, strata, time } = plan;
  const order = shuffle(indices(n), random);
  if (time) return cutAt(inOrderOf(time, order), shares, n);
  if (units) return ofUnits(plan, units, random, manner ?? at(MANNERS, random.below(MANNERS.length)));
  if (!strata) return cutAt(order, shares, n);
  // Rows without a class come last.
  const classes = strata.labels.length + 1;
  const classOf = strata.codes.map((code) => (code < 0 ? classes - 1 : code));
  const cuts = Array.from(sizesOf(classOf, classes), (size) => cutAt(indices(size), shares, size));
  const next = new Int32Array(classes);
  const assigned = new Int32Array(n);
  for (const row of order) {
    const code = at(classOf, row);
    assigned[row] = at(at(cuts, code), at(next, code));
    next[code] = at(next, code) + 1;
  }
  return assigned;
}

/** Ranks from 0 of the times of rows; equal times have the same rank, and rows without a time the first. */
export function timeRanks(values: Float64Array): Int32Array {
  const sorted = [...new Set(values)].sort((a, b) => (Number.isNaN(a) ? -1 : Number.isNaN(b) ? 1 : a - b));
  const rankOf = new Map(sorted.map((value, rank) => [value, rank]));
  return Int32Array.from(values, (value) => rankOf.get(value) ?? 0);
}

/** Rows by rank; those of the same rank stay in the given order. */
function inOrderOf(ranks: Int32Array, order: Int32Array): Int32Array {
  const ends = sizesOf(ranks, 1 + greatest(ranks));
  for (let rank = 1; rank < ends.length; rank++) ends[rank] = at(ends, rank) + at(ends, rank - 1);
  const sorted = new Int32Array(order.length);
  for (let i = order.length - 1; i >= 0; i--) {
    const row = at(order, i);
    const rank = at(ranks, row);
    ends[rank] = at(ends, rank) - 1;
    sorted[at(ends, rank)] = row;
  }
  return sorted;
}

/** The part of each of n things that are cut in the given order. */
function cutAt(order: Int32Array, shares: readonly number[], n: number): Int32Array {
  const assigned = new Int32Array(n);
  let place = 0;
  apportion(n, shares).forEach((size, part) => {
    for (let i = 0; i < size; i++) assigned[at(order, place++)] = part;
  });
  return assigned;
}

function ofUnits(
  { rows, shares }: AssignmentPlan,
  units: Int32Array,
  random: Random,
  manner: Manner,
): Int32Array {
  const sizes = sizesOf(units, 1 + greatest(units));
  const order = shuffle(indices(sizes.length), random);
  let partOf = cutAt(order, shares, sizes.length);
  if (manner === 'each by itself')
    partOf = partOf.map(() => {
      let rest = random.unit();
      return Math.max(
        0,
        shares.findIndex((share) => (rest -= share) < 0),
      );
    });
  if (manner === 'weighed') {
    partOf = new Int32Array(sizes.length);
    const ends = shares.map((_, part) => rows * shares.slice(0, part + 1).reduce((a, b) => a + b, 0));
    let filled = 0;
    for (const unit of order) {
      // By the middle of the unit, so that it goes where most of it belongs.
      const middle = filled + at(sizes, unit) / 2;
      const part = ends.findIndex((end) => middle < end);
      partOf[unit] = part < 0 ? shares.length - 1 : part;
      filled += at(sizes, unit);
    }
  }
  return units.map((unit) => at(partOf, unit));
}

/** What this program's own splitter makes of the plan. */
export function ownAssignment(plan: AssignmentPlan, random: Random): Int32Array {
  const { rows: n, shares, units, strata, time, isFolds } = plan;
  if (time) return honestAssignment(plan, random);
  const classes = strata ? strata.labels.length + 1 : 1;
  const classOf = (row: number) => {
    const code = strata ? at(strata.codes, row) : 0;
    return code < 0 ? classes - 1 : code;
  };
  if (units) {
    const counts: number[][] = [];
    units.forEach((unit, row) => {
      const own = (counts[unit] ??= new Array<number>(classes).fill(0));
      own[classOf(row)] = at(own, classOf(row)) + 1;
    });
    if (counts.length < shares.length) return new Int32Array(n);
    const of = isFolds ? dealGroups(counts, shares.length, random) : assignGroups(counts, shares, random);
    return units.map((unit) => at(of, unit));
  }
  const rows = indices(n);
  if (isFolds) {
    const folds = new Int32Array(n);
    if (strata) dealStratified(rows, strata.codes, strata.labels.length, shares.length, random, folds);
    else dealAtRandom(rows, shares.length, random, folds);
    return folds;
  }
  const parts = new Int8Array(n);
  if (strata) splitStratified(rows, strata.codes, strata.labels.length, shares, random, parts);
  else splitAtRandom(rows, shares, random, parts);
  return Int32Array.from(parts);
}
