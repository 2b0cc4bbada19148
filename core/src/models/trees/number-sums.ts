import { alikeNumbers } from './alike.js';
import type { Cut, NodeSums, Sizes } from './node-sums.js';

/** Sums of numbers; impurity by squared error. */
export class NumberSums implements NodeSums {
  total = 0;
  knownTotal = 0;
  readonly orders = 1;
  readonly outputs = 1;
  readonly alike: number;
  private loaded = 0;
  private mean = 0;
  private square = 0;
  private knownMean = 0;
  private knownSquare = 0;
  private lowTotal = 0;
  private lowSum = 0;
  private readonly own: Float64Array;
  private readonly ownWeights: Float64Array;
  private readonly levelSums: Float64Array;
  private readonly levelWeights: Float64Array;

  constructor(
    private readonly values: Float64Array,
    private readonly weights: Float64Array,
    { rows, levels }: Sizes,
  ) {
    this.alike = alikeNumbers(values, weights);
    this.own = new Float64Array(rows);
    this.ownWeights = new Float64Array(rows);
    this.levelSums = new Float64Array(levels);
    this.levelWeights = new Float64Array(levels);
  }

  get impurity(): number {
    return this.square / this.total;
  }

  get knownImpurity(): number {
    return this.knownSquare / this.knownTotal;
  }

  load(rows: Int32Array, from: number, to: number): void {
    const { own, ownWeights, values, weights } = this;
    let total = 0;
    let sum = 0;
    for (let i = from; i < to; i++) {
      const row = rows[i] ?? 0;
      const weight = weights[row] ?? 0;
      const value = values[row] ?? 0;
      own[i - from] = value;
      ownWeights[i - from] = weight;
      total += weight;
      sum += weight * value;
    }
    const mean = sum / total;
    let square = 0;
    for (let i = 0; i < to - from; i++) square += (ownWeights[i] ?? 0) * ((own[i] ?? 0) - mean) ** 2;
    this.total = total;
    this.mean = mean;
    this.square = square;
    this.loaded = to - from;
  }

  begin(items: Int32Array, count: number): void {
    this.knownTotal = this.total;
    this.knownMean = this.mean;
    this.knownSquare = this.square;
    if (count === this.loaded) return;
    const { own, ownWeights } = this;
    let total = 0;
    let sum = 0;
    for (let i = 0; i < count; i++) {
      const item = items[i] ?? 0;
      total += ownWeights[item] ?? 0;
      sum += (ownWeights[item] ?? 0) * (own[item] ?? 0);
    }
    const mean = sum / total;
    let square = 0;
    for (let i = 0; i < count; i++) {
      const item = items[i] ?? 0;
      square += (ownWeights[item] ?? 0) * ((own[item] ?? 0) - mean) ** 2;
    }
    this.knownTotal = total;
    this.knownMean = mean;
    this.knownSquare = square;
  }

  cut(keys: Int32Array, items: Int32Array, count: number, rowsPerLeaf: number, into: Cut): void {
    const { own, ownWeights, knownMean, knownSquare } = this;
    let lowTotal = 0;
    let highTotal = this.knownTotal;
    // Sums are kept of what differs from the mean, so that no digits are lost to it.
    let lowSum = 0;
    let highSum = 0;
    const tolerance = this.alike * highTotal;
    let best = Infinity;
    into.rows = 0;
    into.left = best;
    const last = count - rowsPerLeaf;
    for (let i = 0; i < last; i++) {
      const item = items[i] ?? 0;
      const weight = ownWeights[item] ?? 0;
      const value = weight * ((own[item] ?? 0) - knownMean);
      lowTotal += weight;
      highTotal -= weight;
      lowSum += value;
      highSum -= value;
      if (keys[i + 1] === keys[i] || i + 1 < rowsPerLeaf) continue;
      const left = knownSquare - (lowSum * lowSum) / lowTotal - (highSum * highSum) / highTotal;
      if (left < best - tolerance) {
        best = left;
        into.rows = i + 1;
        into.left = left;
      }
    }
  }

  /** With sums of the low side, of what differs from the mean of all. */
  private leftBy(lowSum: number, lowTotal: number): number {
    const highTotal = this.knownTotal - lowTotal;
    return this.knownSquare - (lowSum * lowSum) / lowTotal - (lowSum * lowSum) / highTotal;
  }

  leftOf(items: Int32Array, lowRows: number): number {
    const { own, ownWeights, knownMean } = this;
    let lowTotal = 0;
    let lowSum = 0;
    for (let i = 0; i < lowRows; i++) {
      const item = items[i] ?? 0;
      const weight = ownWeights[item] ?? 0;
      lowTotal += weight;
      lowSum += weight * ((own[item] ?? 0) - knownMean);
    }
    return this.leftBy(lowSum, lowTotal);
  }

  sumLevel(items: Int32Array, from: number, to: number, level: number): void {
    const { own, ownWeights, knownMean } = this;
    let sum = 0;
    let weight = 0;
    for (let i = from; i < to; i++) {
      const item = items[i] ?? 0;
      weight += ownWeights[item] ?? 0;
      sum += (ownWeights[item] ?? 0) * ((own[item] ?? 0) - knownMean);
    }
    this.levelSums[level] = sum;
    this.levelWeights[level] = weight;
  }

  orderOf(level: number): number {
    return (this.levelSums[level] ?? 0) / (this.levelWeights[level] ?? 1);
  }

  beginLevels(): void {
    this.lowTotal = 0;
    this.lowSum = 0;
  }

  moveLevel(level: number): number {
    this.lowTotal += this.levelWeights[level] ?? 0;
    this.lowSum += this.levelSums[level] ?? 0;
    return this.leftBy(this.lowSum, this.lowTotal);
  }

  output(): number {
    return this.mean;
  }
}
