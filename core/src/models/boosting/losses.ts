import { classWeights, type Target } from '../prepared/target.js';

/** What boosting makes small: one score for each row, or one for each class. */
export interface Loss {
  readonly measure: 'log loss' | 'mean squared error' | 'quantile loss';
  readonly outputs: number;
  /** The best constant scores. */
  readonly starts: readonly number[];
  /**
   * Gradients and second derivatives of the loss by the scores, times the weights.
   *
   * @returns the loss per unit of weight
   */
  derive(
    scores: readonly Float64Array[],
    gradients: readonly Float64Array[],
    hessians: readonly Float64Array[],
  ): number;
  /** The loss alone, per unit of weight. */
  measured(scores: readonly Float64Array[]): number;
  /** What a leaf adds at best to the scores of its rows; null where that is −G / (H + penalty). */
  readonly leaf: ((scores: Float64Array, rows: Int32Array, from: number, to: number) => number) | null;
}

/** A share beside which a class is never met; its logarithm is finite. */
const NEVER = 1e-12;

const sumOf = (weights: Float64Array): number => weights.reduce((sum, weight) => sum + weight, 0);

/** The loss of two classes, of several, or of numbers: squared, or of a quantile where its level is given. */
export function lossOf(target: Target, weights: Float64Array, level: number | null): Loss {
  if (target.kind === 'numbers')
    return level === null ? squaredLoss(target.values, weights) : quantileLoss(target.values, weights, level);
  const { codes, labels, positive } = target;
  const shares = classWeights(target, weights);
  const total = sumOf(weights);
  const logs = Array.from(shares, (share) => Math.log(Math.max(NEVER, share / total)));
  if (positive === null) return classLoss(codes, labels.length, weights, logs);
  const share = Math.min(1 - NEVER, Math.max(NEVER, (shares[positive] ?? 0) / total));
  return binaryLoss(codes, positive, weights, Math.log(share / (1 - share)));
}

function binaryLoss(codes: Int32Array, positive: number, weights: Float64Array, start: number): Loss {
  const total = sumOf(weights);
  const derive = (
    [scores]: readonly Float64Array[],
    gradients?: Float64Array,
    hessians?: Float64Array,
  ): number => {
    let loss = 0;
    for (let row = 0; row < codes.length; row++) {
      const score = scores?.[row] ?? 0;
      const weight = weights[row] ?? 0;
      const truth = codes[row] === positive ? 1 : 0;
      const small = Math.exp(-Math.abs(score));
      const chance = score >= 0 ? 1 / (1 + small) : small / (1 + small);
      loss += weight * (Math.log1p(small) + Math.max(score, 0) - truth * score);
      if (gradients) gradients[row] = weight * (chance - truth);
      if (hessians) hessians[row] = weight * chance * (1 - chance);
    }
    return loss / total;
  };
  return {
    measure: 'log loss',
    outputs: 1,
    starts: [start],
    derive: (scores, gradients, hessians) => derive(scores, gradients[0], hessians[0]),
    measured: (scores) => derive(scores),
    leaf: null,
  };
}

function classLoss(
  codes: Int32Array,
  classes: number,
  weights: Float64Array,
  starts: readonly number[],
): Loss {
  const total = sumOf(weights);
  const chances = new Float64Array(classes);
  const derive = (
    scores: readonly Float64Array[],
    gradients?: readonly Float64Array[],
    hessians?: readonly Float64Array[],
  ): number => {
    let loss = 0;
    for (let row = 0; row < codes.length; row++) {
      const weight = weights[row] ?? 0;
      const truth = codes[row] ?? 0;
      let largest = -Infinity;
      for (let k = 0; k < classes; k++) largest = Math.max(largest, scores[k]?.[row] ?? 0);
      let sum = 0;
      for (let k = 0; k < classes; k++) {
        const chance = Math.exp((scores[k]?.[row] ?? 0) - largest);
        chances[k] = chance;
        sum += chance;
      }
      loss += weight * (Math.log(sum) + largest - (scores[truth]?.[row] ?? 0));
      if (!gradients || !hessians) continue;
      for (let k = 0; k < classes; k++) {
        const chance = (chances[k] ?? 0) / sum;
        const gradient = gradients[k];
        const hessian = hessians[k];
        if (gradient) gradient[row] = weight * (chance - (k === truth ? 1 : 0));
        if (hessian) hessian[row] = weight * chance * (1 - chance);
      }
    }
    return loss / total;
  };
  return {
    measure: 'log loss',
    outputs: classes,
    starts,
    derive,
    measured: (scores) => derive(scores),
    leaf: null,
  };
}

function squaredLoss(values: Float64Array, weights: Float64Array): Loss {
  const total = sumOf(weights);
  const derive = ([scores]: readonly Float64Array[], gradients?: Float64Array, hessians?: Float64Array) => {
    let loss = 0;
    for (let row = 0; row < values.length; row++) {
      const weight = weights[row] ?? 0;
      const error = (scores?.[row] ?? 0) - (values[row] ?? 0);
      loss += weight * error * error;
      if (gradients) gradients[row] = weight * error;
      if (hessians) hessians[row] = weight;
    }
    return loss / total;
  };
  return {
    measure: 'mean squared error',
    outputs: 1,
    starts: [values.reduce((sum, value, row) => sum + value * (weights[row] ?? 0), 0) / total],
    derive: (scores, gradients, hessians) => derive(scores, gradients[0], hessians[0]),
    measured: (scores) => derive(scores),
    leaf: null,
  };
}

/** Koenker and Bassett, Regression Quantiles (1978). */
function quantileLoss(values: Float64Array, weights: Float64Array, level: number): Loss {
  const total = sumOf(weights);
  const derive = ([scores]: readonly Float64Array[], gradients?: Float64Array, hessians?: Float64Array) => {
    let loss = 0;
    for (let row = 0; row < values.length; row++) {
      const weight = weights[row] ?? 0;
      const error = (values[row] ?? 0) - (scores?.[row] ?? 0);
      loss += weight * (error >= 0 ? level * error : (level - 1) * error);
      if (gradients) gradients[row] = weight * (error >= 0 ? -level : 1 - level);
      if (hessians) hessians[row] = weight;
    }
    return loss / total;
  };
  const rows = Int32Array.from(values.keys());
  return {
    measure: 'quantile loss',
    outputs: 1,
    starts: [weightedQuantile(values, weights, rows, level)],
    derive: (scores, gradients, hessians) => derive(scores, gradients[0], hessians[0]),
    measured: (scores) => derive(scores),
    leaf: (scores, members, from, to) => {
      const own = members.slice(from, to);
      const rest = Float64Array.from(own, (row) => (values[row] ?? 0) - (scores[row] ?? 0));
      const ownWeights = Float64Array.from(own, (row) => weights[row] ?? 0);
      return weightedQuantile(rest, ownWeights, Int32Array.from(own.keys()), level);
    },
  };
}

/** The smallest value up to which the rows hold the level's share of the weight; it makes the quantile loss least. */
function weightedQuantile(
  values: Float64Array,
  weights: Float64Array,
  rows: Int32Array,
  level: number,
): number {
  const sorted = rows.slice().sort((a, b) => (values[a] ?? 0) - (values[b] ?? 0));
  const total = sumOf(weights);
  let sum = 0;
  for (const row of sorted) {
    sum += weights[row] ?? 0;
    if (sum >= level * total - 1e-12 * total) return values[row] ?? 0;
  }
  return values[sorted.at(-1) ?? 0] ?? 0;
}
