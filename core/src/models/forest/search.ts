import type { Random } from '../../foundation/random/random.js';
import { bitOf } from '../trees/compact-tree.js';
import type { Cut, NodeSums } from '../trees/node-sums.js';
import { RankSorter, type RankedColumn } from '../trees/ranks.js';

/** A way of splitting a node by one column. */
export interface Found {
  /** Impurity that is left: of both sides, each times its weight; rows with a missing value keep that of the node. */
  readonly left: number;
  /** Fall of the impurity per unit of weight, of the rows whose value is known. */
  readonly gain: number;
  /** As a compact tree has it: a number, or a set of levels. */
  readonly threshold: number;
  /** The largest rank that goes to the low child; of a category −1, where the set says it. */
  readonly rank: number;
  /** Where missing values go: with most rows. */
  readonly missingHigh: boolean;
}

/** Rows of a node whose value is known: how many, of how many rows, and the range of their ranks. */
interface Known {
  count: number;
  all: number;
  smallest: number;
  largest: number;
}

/** Searches the rows of a node for the best split by a column, or for one drawn at random (extra trees). */
export class SplitSearch {
  private readonly keys: Int32Array;
  private readonly items: Int32Array;
  private readonly sorter: RankSorter;
  private readonly levelStarts: Int32Array;
  private readonly cut: Cut = { rows: 0, left: Infinity };
  private readonly known: Known = { count: 0, all: 0, smallest: 0, largest: 0 };

  constructor(
    private readonly sums: NodeSums,
    private readonly rowsPerLeaf: number,
    private readonly thresholds: 'best' | 'random',
    size: number,
    levels: number,
  ) {
    this.keys = new Int32Array(size);
    this.items = new Int32Array(size);
    this.sorter = new RankSorter(size);
    this.levelStarts = new Int32Array(levels + 1);
  }

  /**
   * @param members rows; those of the node, which the sums have loaded, are from `from` to `to`
   * @returns null where no split leaves enough rows on both sides, `constant` where all values are alike
   */
  search(
    column: RankedColumn,
    members: Int32Array,
    from: number,
    to: number,
    random: Random,
  ): Found | 'constant' | null {
    const { items, known } = this;
    this.gather(column.ranks, members, from, to);
    const { count, smallest, largest } = known;
    if (count === 0 || smallest === largest) return 'constant';
    if (count < 2 * this.rowsPerLeaf) return null;
    this.sums.begin(items, count);
    if (column.distinct.length === 0)
      return this.thresholds === 'random'
        ? this.randomLevels(column.count, known, random)
        : this.bestLevels(column.count, known);
    return this.thresholds === 'random'
      ? this.randomThreshold(column.distinct, known, random)
      : this.bestThreshold(column.distinct, known);
  }

  /** Takes up the rows whose value is known. */
  private gather(ranks: Int32Array, members: Int32Array, from: number, to: number): void {
    const { keys, items, known } = this;
    let count = 0;
    let smallest = ranks.length;
    let largest = -1;
    for (let i = from; i < to; i++) {
      const rank = ranks[members[i] ?? 0] ?? -1;
      if (rank < 0) continue;
      keys[count] = rank;
      items[count] = i - from;
      count++;
      if (rank < smallest) smallest = rank;
      if (rank > largest) largest = rank;
    }
    known.count = count;
    known.all = to - from;
    known.smallest = smallest;
    known.largest = largest;
  }

  private found(
    left: number,
    threshold: number,
    rank: number,
    lowRows: number,
    { count, all }: Known,
  ): Found {
    const { sums } = this;
    const { knownTotal } = sums;
    return {
      left: count === all ? left : left + (sums.total - knownTotal) * sums.impurity,
      gain: sums.knownImpurity - left / knownTotal,
      threshold,
      rank,
      missingHigh: lowRows < count - lowRows,
    };
  }

  private bestThreshold(distinct: Float64Array, known: Known): Found | null {
    const { keys, items, cut } = this;
    const { count, smallest, largest } = known;
    this.sorter.sort(keys, items, count, smallest, largest);
    this.sums.cut(keys, items, count, this.rowsPerLeaf, cut);
    if (cut.rows === 0) return null;
    const rank = keys[cut.rows - 1] ?? 0;
    const value = distinct[rank] ?? 0;
    const next = distinct[keys[cut.rows] ?? 0] ?? 0;
    const middle = value + (next - value) / 2;
    return this.found(cut.left, middle < next ? middle : value, rank, cut.rows, known);
  }

  /** A threshold anywhere between the smallest and the largest value (Geurts, Ernst and Wehenkel, 2006). */
  private randomThreshold(distinct: Float64Array, known: Known, random: Random): Found | null {
    const { keys, items, rowsPerLeaf } = this;
    const { count, smallest, largest } = known;
    const low = distinct[smallest] ?? 0;
    const high = distinct[largest] ?? 0;
    const threshold = low + random.unit() * (high - low);
    let rank = smallest;
    let above = largest;
    while (above - rank > 1) {
      const middle = (rank + above) >> 1;
      if ((distinct[middle] ?? 0) <= threshold) rank = middle;
      else above = middle;
    }
    let lowRows = 0;
    for (let i = 0; i < count; i++)
      if ((keys[i] ?? 0) <= rank) {
        const item = items[i] ?? 0;
        items[i] = items[lowRows] ?? 0;
        items[lowRows++] = item;
      }
    if (lowRows < rowsPerLeaf || count - lowRows < rowsPerLeaf) return null;
    return this.found(this.sums.leftOf(items, lowRows), threshold, rank, lowRows, known);
  }

  /** Brings rows of a level together and sums them; gives the levels that occur. */
  private byLevel(levels: number, { count, smallest, largest }: Known): number[] {
    const { keys, items, levelStarts, sums } = this;
    this.sorter.sort(keys, items, count, smallest, largest);
    levelStarts.fill(0);
    for (let i = 0; i < count; i++) {
      const next = (keys[i] ?? 0) + 1;
      levelStarts[next] = (levelStarts[next] ?? 0) + 1;
    }
    const present: number[] = [];
    for (let level = 0; level < levels; level++) {
      const start = levelStarts[level] ?? 0;
      const size = levelStarts[level + 1] ?? 0;
      levelStarts[level + 1] = start + size;
      if (size === 0) continue;
      sums.sumLevel(items, start, start + size, level);
      present.push(level);
    }
    return present;
  }

  private rowsOf(level: number): number {
    return (this.levelStarts[level + 1] ?? 0) - (this.levelStarts[level] ?? 0);
  }

  /** Levels in the order of their mean or share, split where that is best (Breiman and others, 1984, 4.2.2). */
  private bestLevels(levels: number, known: Known): Found | null {
    const { sums, rowsPerLeaf } = this;
    const present = this.byLevel(levels, known);
    const tolerance = sums.alike * sums.knownTotal;
    let best = Infinity;
    let [bestSet, bestRows] = [0, 0];
    for (let order = 0; order < sums.orders; order++) {
      const shares = present.map((level) => sums.orderOf(level, order));
      const places = [...present.keys()].sort((a, b) => (shares[a] ?? 0) - (shares[b] ?? 0) || a - b);
      sums.beginLevels();
      let [set, rows] = [0, 0];
      for (const place of places.slice(0, -1)) {
        const level = present[place] ?? 0;
        const left = sums.moveLevel(level);
        set += bitOf(level);
        rows += this.rowsOf(level);
        if (rows < rowsPerLeaf || known.count - rows < rowsPerLeaf) continue;
        if (left < best - tolerance) [best, bestSet, bestRows] = [left, set, rows];
      }
    }
    return best === Infinity ? null : this.foundSet(best, bestSet, bestRows, levels, known);
  }

  /** Each level on either side with equal chance, at least one on each. */
  private randomLevels(levels: number, known: Known, random: Random): Found | null {
    const { sums, rowsPerLeaf } = this;
    const present = this.byLevel(levels, known);
    let low: number[];
    do low = present.filter(() => random.bits() >>> 31 === 1);
    while (low.length === 0 || low.length === present.length);
    sums.beginLevels();
    let [set, rows, left] = [0, 0, Infinity];
    for (const level of low) {
      left = sums.moveLevel(level);
      set += bitOf(level);
      rows += this.rowsOf(level);
    }
    if (rows < rowsPerLeaf || known.count - rows < rowsPerLeaf) return null;
    return this.foundSet(left, set, rows, levels, known);
  }

  /** Levels that the node has not met go where missing values go. */
  private foundSet(left: number, set: number, lowRows: number, levels: number, known: Known): Found {
    const found = this.found(left, set, -1, lowRows, known);
    if (found.missingHigh) return found;
    let all = set;
    for (let level = 0; level < levels; level++) if (this.rowsOf(level) === 0) all += bitOf(level);
    return { ...found, threshold: all };
  }
}
