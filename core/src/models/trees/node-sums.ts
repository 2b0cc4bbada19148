import { ALIKE_CLASSES } from './alike.js';

/** Where the sorted rows of a node are split best. */
export interface Cut {
  /** Rows on the low side; 0 where no split leaves enough rows on both. */
  rows: number;
  /** Impurity that is left: of both sides, each times its weight. */
  left: number;
}

/**
 * The target of a node's rows, copied side by side so that every column is searched without going back to the rows, and the
 * impurity that a split of them leaves. Rows are named by their place among those that were loaded. Definitions are those of a
 * single tree (`tree/scores.ts`); the loops keep their sums in variables of their own, which is what makes them fast.
 */
export interface NodeSums {
  /** Sum of the weights of the node, and its impurity per unit of weight. */
  readonly total: number;
  readonly impurity: number;
  /** Total and impurity of the rows that a search began with: those whose value is known. */
  readonly knownTotal: number;
  readonly knownImpurity: number;
  /** Impurities per unit of weight that differ by less are the same; a split is better where it leaves less by more than that. */
  readonly alike: number;
  /** Takes up the rows of a node. */
  load(rows: Int32Array, from: number, to: number): void;
  /** Begins a search among the first `count` items. */
  begin(items: Int32Array, count: number): void;
  /** The best place to split items that are in the order of their keys, between different keys. */
  cut(keys: Int32Array, items: Int32Array, count: number, rowsPerLeaf: number, into: Cut): void;
  /** Impurity that is left where the first `low` items are on the low side. */
  leftOf(items: Int32Array, low: number): number;
  /** Sums the items of a level. */
  sumLevel(items: Int32Array, from: number, to: number, level: number): void;
  /** In how many ways levels are put in order, and by what: their mean, or the share of a class. */
  readonly orders: number;
  orderOf(level: number, order: number): number;
  /** No level on the low side; then one after another. @returns impurity that is left */
  beginLevels(): void;
  moveLevel(level: number): number;
  /** What a leaf of the loaded rows predicts. */
  readonly outputs: number;
  output(k: number): number;
}

/** Places for the rows of the largest node, and for levels of a category. */
export interface Sizes {
  readonly rows: number;
  readonly levels: number;
}

/** Sums of classes; impurity by Gini's index. */
export class ClassSums implements NodeSums {
  total = 0;
  knownTotal = 0;
  readonly alike = ALIKE_CLASSES;
  readonly orders: number;
  readonly outputs: number;
  private loaded = 0;
  private readonly own: Int32Array;
  private readonly ownWeights: Float64Array;
  private readonly all: Float64Array;
  private readonly known: Float64Array;
  private readonly low: Float64Array;
  private readonly high: Float64Array;
  private readonly levelSums: Float64Array;

  constructor(
    private readonly codes: Int32Array,
    private readonly classes: number,
    private readonly weights: Float64Array,
    { rows, levels }: Sizes,
  ) {
    this.own = new Int32Array(rows);
    this.ownWeights = new Float64Array(rows);
    this.all = new Float64Array(classes);
    this.known = new Float64Array(classes);
    this.low = new Float64Array(classes);
    this.high = new Float64Array(classes);
    this.levelSums = new Float64Array(levels * classes);
    // The share of the first of two classes orders levels as that of the second does.
    this.orders = classes === 2 ? 1 : classes;
    this.outputs = classes;
  }

  get impurity(): number {
    return impurityOf(this.all, this.total);
  }

  get knownImpurity(): number {
    return impurityOf(this.known, this.knownTotal);
  }

  load(rows: Int32Array, from: number, to: number): void {
    const { all, own, ownWeights, codes, weights } = this;
    all.fill(0);
    let total = 0;
    for (let i = from; i < to; i++) {
      const row = rows[i] ?? 0;
      const code = codes[row] ?? 0;
      const weight = weights[row] ?? 0;
      own[i - from] = code;
      ownWeights[i - from] = weight;
      all[code] = (all[code] ?? 0) + weight;
      total += weight;
    }
    this.total = total;
    this.loaded = to - from;
  }

  begin(items: Int32Array, count: number): void {
    const { known, all, own, ownWeights } = this;
    known.set(all);
    this.knownTotal = this.total;
    if (count === this.loaded) return;
    known.fill(0);
    let total = 0;
    for (let i = 0; i < count; i++) {
      const item = items[i] ?? 0;
      const code = own[item] ?? 0;
      const weight = ownWeights[item] ?? 0;
      known[code] = (known[code] ?? 0) + weight;
      total += weight;
    }
    this.knownTotal = total;
  }

  cut(keys: Int32Array, items: Int32Array, count: number, rowsPerLeaf: number, into: Cut): void {
    const { own, ownWeights, low, high } = this;
    low.fill(0);
    high.set(this.known);
    let lowTotal = 0;
    let highTotal = this.knownTotal;
    let lowSquares = 0;
    let highSquares = squares(high);
    const tolerance = this.alike * highTotal;
    let best = Infinity;
    into.rows = 0;
    into.left = best;
    const last = count - rowsPerLeaf;
    for (let i = 0; i < last; i++) {
      const item = items[i] ?? 0;
      const code = own[item] ?? 0;
      const weight = ownWeights[item] ?? 0;
      const below = low[code] ?? 0;
      const above = high[code] ?? 0;
      lowSquares += weight * (2 * below + weight);
      highSquares -= weight * (2 * above - weight);
      low[code] = below + weight;
      high[code] = above - weight;
      lowTotal += weight;
      highTotal -= weight;
      if (keys[i + 1] === keys[i] || i + 1 < rowsPerLeaf) continue;
      const left = lowTotal + highTotal - lowSquares / lowTotal - highSquares / highTotal;
      if (left < best - tolerance) {
        best = left;
        into.rows = i + 1;
        into.left = left;
      }
    }
  }

  leftOf(items: Int32Array, lowRows: number): number {
    const { own, ownWeights, low, high } = this;
    low.fill(0);
    let lowTotal = 0;
    for (let i = 0; i < lowRows; i++) {
      const item = items[i] ?? 0;
      const code = own[item] ?? 0;
      const weight = ownWeights[item] ?? 0;
      low[code] = (low[code] ?? 0) + weight;
      lowTotal += weight;
    }
    for (let k = 0; k < high.length; k++) high[k] = (this.known[k] ?? 0) - (low[k] ?? 0);
    return leftBy(low, lowTotal, high, this.knownTotal - lowTotal);
  }

  sumLevel(items: Int32Array, from: number, to: number, level: number): void {
    const { levelSums, own, ownWeights, classes } = this;
    const first = level * classes;
    levelSums.fill(0, first, first + classes);
    for (let i = from; i < to; i++) {
      const item = items[i] ?? 0;
      const place = first + (own[item] ?? 0);
      levelSums[place] = (levelSums[place] ?? 0) + (ownWeights[item] ?? 0);
    }
  }

  orderOf(level: number, order: number): number {
    const own = this.levelSums.subarray(level * this.classes, (level + 1) * this.classes);
    return (own[order] ?? 0) / own.reduce((sum, weight) => sum + weight, 0);
  }

  beginLevels(): void {
    this.low.fill(0);
    this.high.set(this.known);
  }

  moveLevel(level: number): number {
    const { low, high, levelSums, classes } = this;
    let lowTotal = 0;
    for (let k = 0; k < classes; k++) {
      const weight = levelSums[level * classes + k] ?? 0;
      low[k] = (low[k] ?? 0) + weight;
      high[k] = (high[k] ?? 0) - weight;
      lowTotal += low[k] ?? 0;
    }
    return leftBy(low, lowTotal, high, this.knownTotal - lowTotal);
  }

  output(k: number): number {
    return (this.all[k] ?? 0) / this.total;
  }
}

function squares(sums: Float64Array): number {
  let sum = 0;
  for (let k = 0; k < sums.length; k++) sum += (sums[k] ?? 0) ** 2;
  return sum;
}

const impurityOf = (sums: Float64Array, total: number): number =>
  total > 0 ? 1 - squares(sums) / (total * total) : 0;

const leftBy = (low: Float64Array, lowTotal: number, high: Float64Array, highTotal: number): number =>
  lowTotal + highTotal - squares(low) / lowTotal - squares(high) / highTotal;
