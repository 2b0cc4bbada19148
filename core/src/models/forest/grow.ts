import { at } from '../../foundation/numbers.js';
import type { Random } from '../../foundation/random/random.js';
import { hasLevel, TreeBuilder, type CompactTree } from '../trees/compact-tree.js';
import type { NodeSums } from '../trees/node-sums.js';
import { RowParter } from '../trees/part-rows.js';
import type { RankedColumn } from '../trees/ranks.js';
import { SplitSearch, type Found } from './search.js';

export interface ForestTreeOptions {
  /** Columns that are tried at each node, those whose values are all alike not counted. */
  readonly columnsPerSplit: number;
  readonly rowsPerLeaf: number;
  readonly depth: number;
  /** The best threshold of a column, or one drawn at random (extra trees). */
  readonly thresholds: 'best' | 'random';
}

/**
 * Grows the trees of a forest over the same columns: to leaves that are pure or too small, each node split by the best of some
 * columns drawn for it (Breiman, Random Forests, 2001; scikit-learn, RandomForestClassifier). With all columns and no draw of
 * rows a tree is the decision tree of the family `tree`.
 */
export class ForestGrower {
  private readonly search: SplitSearch;
  private readonly parter: RowParter;

  constructor(
    private readonly columns: readonly RankedColumn[],
    private readonly sums: NodeSums,
    private readonly options: ForestTreeOptions,
    rowCount: number,
  ) {
    const levels = columns.reduce(
      (most, { distinct, count }) => (distinct.length > 0 ? most : Math.max(most, count)),
      0,
    );
    this.search = new SplitSearch(sums, options.rowsPerLeaf, options.thresholds, rowCount, levels);
    this.parter = new RowParter(rowCount);
  }

  /**
   * Grows one tree.
   *
   * @param members rows, each once, in ascending order; their order is changed
   * @param importances for each column the fall of impurity at its splits times their weight, added to
   */
  grow(members: Int32Array, random: Random, importances: Float64Array): CompactTree {
    const { sums, options, columns } = this;
    const tree = new TreeBuilder(sums.outputs);
    const order = Int32Array.from(columns, (_, column) => column);
    const open = [{ place: 0, from: 0, to: members.length, depth: 0 }];
    for (let node = open.pop(); node; node = open.pop()) {
      const { place, from, to, depth } = node;
      sums.load(members, from, to);
      const chosen =
        depth < options.depth &&
        to - from >= Math.max(2, 2 * options.rowsPerLeaf) &&
        sums.impurity > sums.alike
          ? this.choose(members, from, to, order, random)
          : null;
      if (!chosen) {
        for (let k = 0; k < sums.outputs; k++) tree.set(place, k, sums.output(k));
        continue;
      }
      const { column, found } = chosen;
      importances[column] = (importances[column] ?? 0) + sums.total * found.gain;
      const middle = this.part(members, from, to, column, found);
      const low = tree.split(place, column, found.threshold, found.missingHigh);
      open.push({ place: low + 1, from: middle, to, depth: depth + 1 });
      open.push({ place: low, from, to: middle, depth: depth + 1 });
    }
    return tree.done();
  }

  /** The best split of the columns that are drawn; of equally good ones that of the earlier column. */
  private choose(members: Int32Array, from: number, to: number, order: Int32Array, random: Random) {
    const { columns, options } = this;
    let best: { column: number; found: Found } | null = null;
    const tolerance = this.sums.alike * this.sums.total;
    let tried = 0;
    for (let i = 0; i < order.length && tried < options.columnsPerSplit; i++) {
      const other = i + (i < order.length - 1 ? random.below(order.length - i) : 0);
      const column = order[other] ?? 0;
      order[other] = order[i] ?? 0;
      order[i] = column;
      const ranked = columns[column];
      const found = ranked ? this.search.search(ranked, members, from, to, random) : 'constant';
      if (found === 'constant') continue;
      tried++;
      if (!found) continue;
      const less = best ? best.found.left - found.left : Infinity;
      if (!best || less > tolerance || (less >= -tolerance && column < best.column)) best = { column, found };
    }
    return best;
  }

  /** Brings the rows of the low child before those of the high one. @returns where the high ones begin */
  private part(members: Int32Array, from: number, to: number, column: number, found: Found): number {
    const { ranks } = at(this.columns, column);
    const { rank, threshold, missingHigh } = found;
    const { side } = this.parter;
    if (rank < 0) sidesOfLevels(ranks, members, from, to, threshold, missingHigh, side);
    else sidesOfNumbers(ranks, members, from, to, rank, missingHigh, side);
    return this.parter.part(members, from, to);
  }
}

function sidesOfNumbers(
  ranks: Int32Array,
  members: Int32Array,
  from: number,
  to: number,
  lastLow: number,
  missingHigh: boolean,
  side: Uint8Array,
): void {
  const missing = missingHigh ? 1 : 0;
  for (let i = from; i < to; i++) {
    const rank = ranks[members[i] ?? 0] ?? -1;
    side[i] = rank < 0 ? missing : rank > lastLow ? 1 : 0;
  }
}

function sidesOfLevels(
  ranks: Int32Array,
  members: Int32Array,
  from: number,
  to: number,
  low: number,
  missingHigh: boolean,
  side: Uint8Array,
): void {
  const missing = missingHigh ? 1 : 0;
  for (let i = from; i < to; i++) {
    const code = ranks[members[i] ?? 0] ?? -1;
    side[i] = code < 0 ? missing : hasLevel(low, code) ? 0 : 1;
  }
}
