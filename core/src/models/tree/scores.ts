import { ALIKE_CLASSES, alikeNumbers } from '../trees/alike.js';
import { entropy, gini, type Criterion } from './impurity.js';

/**
 * What a node's rows are separated by: their classes or numbers, and their weights. A split is scored by the
 * weighted impurity that it leaves, which is cheap to keep up to date as rows move from one side to the other.
 */
export interface Scores {
  /** Whether numbers are predicted, and the first sum of a summary is their mean. */
  readonly isNumbers: boolean;
  /** Impurities per unit of weight that differ by less are the same. */
  readonly alike: number;
  /** Values of a node: sums of classes, or the mean alone; and its impurity. */
  readonly summary: (rows: Int32Array, from: number, to: number) => Summary;
  /** All rows to the right, none to the left. */
  readonly begin: (summary: Summary) => void;
  /** A row goes from right to left. */
  readonly move: (row: number) => void;
  /** Impurity that is left: of both sides, each times its rows. */
  readonly left: () => number;
  /** Weight of the rows on the left. */
  readonly leftWeight: () => number;
}

export interface Summary {
  /** Sum of the weights. */
  readonly rows: number;
  /** Sums of the classes; of numbers their mean and the sum of the squares of what differs from it. */
  readonly sums: Float64Array;
  readonly impurity: number;
}

const weightOf = (weights: Float64Array | null, row: number): number => (weights ? (weights[row] ?? 0) : 1);

/** x log₂ x, remembered for whole numbers. */
function logTable(size: number): (x: number) => number {
  const table = new Float64Array(size);
  for (let x = 2; x < size; x++) table[x] = x * Math.log2(x);
  return (x) => (x < size && Number.isInteger(x) ? (table[x] ?? 0) : x > 0 ? x * Math.log2(x) : 0);
}

export function classScores(
  codes: Int32Array,
  classes: number,
  weights: Float64Array | null,
  criterion: Criterion,
): Scores {
  const leftSums = new Float64Array(classes);
  const rightSums = new Float64Array(classes);
  let [leftTotal, rightTotal] = [0, 0];
  const byGini = criterion === 'gini';
  const xlogx = byGini ? () => 0 : logTable(weights ? 2 : codes.length + 1);
  /** Σ s² of either side for Gini's, Σ s log s for entropy. */
  let [leftTerm, rightTerm] = [0, 0];
  const termOf = byGini ? (x: number) => x * x : xlogx;
  return {
    isNumbers: false,
    alike: ALIKE_CLASSES,
    summary: (rows, from, to) => {
      const sums = new Float64Array(classes);
      let total = 0;
      for (let i = from; i < to; i++) {
        const row = rows[i] ?? 0;
        const weight = weightOf(weights, row);
        const code = codes[row] ?? 0;
        sums[code] = (sums[code] ?? 0) + weight;
        total += weight;
      }
      return { rows: total, sums, impurity: byGini ? gini(sums, total) : entropy(sums, total) };
    },
    begin: ({ sums, rows }) => {
      leftSums.fill(0);
      rightSums.set(sums);
      leftTotal = 0;
      rightTotal = rows;
      leftTerm = 0;
      rightTerm = 0;
      for (let k = 0; k < classes; k++) rightTerm += termOf(sums[k] ?? 0);
    },
    move: (row) => {
      const code = codes[row] ?? 0;
      const weight = weightOf(weights, row);
      const left = leftSums[code] ?? 0;
      const right = rightSums[code] ?? 0;
      leftTerm += termOf(left + weight) - termOf(left);
      rightTerm += termOf(right - weight) - termOf(right);
      leftSums[code] = left + weight;
      rightSums[code] = right - weight;
      leftTotal += weight;
      rightTotal -= weight;
    },
    left: () =>
      byGini
        ? leftTotal + rightTotal - leftTerm / leftTotal - rightTerm / rightTotal
        : xlogx(leftTotal) + xlogx(rightTotal) - leftTerm - rightTerm,
    leftWeight: () => leftTotal,
  };
}

export function numberScores(values: Float64Array, weights: Float64Array | null): Scores {
  let [leftTotal, rightTotal, leftSum, rightSum, squares, shift] = [0, 0, 0, 0, 0, 0];
  return {
    isNumbers: true,
    alike: alikeNumbers(values, weights),
    summary: (rows, from, to) => {
      let [total, sum] = [0, 0];
      for (let i = from; i < to; i++) {
        const row = rows[i] ?? 0;
        const weight = weightOf(weights, row);
        total += weight;
        sum += weight * (values[row] ?? 0);
      }
      const mean = sum / total;
      let square = 0;
      for (let i = from; i < to; i++) {
        const row = rows[i] ?? 0;
        square += weightOf(weights, row) * ((values[row] ?? 0) - mean) ** 2;
      }
      return { rows: total, sums: Float64Array.of(mean, square), impurity: square / total };
    },
    begin: ({ rows, sums }) => {
      // Sums are kept of what differs from the mean, so that no digits are lost to it.
      shift = sums[0] ?? 0;
      [leftTotal, rightTotal, leftSum, rightSum, squares] = [0, rows, 0, 0, sums[1] ?? 0];
    },
    move: (row) => {
      const weight = weightOf(weights, row);
      const value = weight * ((values[row] ?? 0) - shift);
      leftTotal += weight;
      rightTotal -= weight;
      leftSum += value;
      rightSum -= value;
    },
    left: () => squares - (leftSum * leftSum) / leftTotal - (rightSum * rightSum) / rightTotal,
    leftWeight: () => leftTotal,
  };
}
