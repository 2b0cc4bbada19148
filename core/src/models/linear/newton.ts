import { at } from '../../numbers.js';
import { cholesky } from './elimination.js';

const MOST_STEPS = 30;
/** Change of the deviance, beside its size, below which it has settled (R, glm.control: 1e-8). */
const SETTLED = 1e-12;
/**
 * Log-odds of a row, on standardised features, beyond which no data that overlap lead: its probability differs from 1 by
 * less than numbers can hold.
 */
const BEYOND = 36;
const GROWTH = 0.01;

/** Log-odds of each class after the one that others are compared with. */
export interface NewtonFit {
  /** For each of these classes an intercept and then p slopes. */
  readonly estimates: readonly Float64Array[];
  /** Covariance of all of them, class after class; null where the classes are separated. */
  readonly covariance: readonly Float64Array[] | null;
  readonly deviance: number;
  /** Whether estimates grow without end because the classes, or some rows of them, can be told apart perfectly. */
  readonly separated: boolean;
}

/**
 * Logistic regression by Newton's method, which is iteratively reweighted least squares (McCullagh and Nelder,
 * Generalized Linear Models, 2nd ed., 2.5; Hastie, Tibshirani and Friedman, 4.4.1), on standardised columns.
 *
 * @param columns p columns of n values of mean 0, none made up by others
 * @param codes class of each row; the first class is the one that others are compared with
 */
export function newton(
  columns: readonly Float64Array[],
  codes: Int32Array,
  classes: number,
  weights: Float64Array | null,
): NewtonFit {
  const width = columns.length + 1;
  const others = classes - 1;
  let theta = new Float64Array(others * width);
  let state = evaluate(columns, codes, others, weights, theta);
  let separated = false;
  for (let step = 0; step < MOST_STEPS; step++) {
    const { gradient, hessian } = derivatives(columns, codes, others, weights, state.probabilities);
    const move = solve(hessian, gradient);
    if (!move) {
      separated = true;
      break;
    }
    let length = 1;
    let next = theta;
    let after = state;
    // Half a step, where a whole one goes too far.
    for (; length > 1e-6; length /= 2) {
      next = theta.map((value, k) => value + length * at(move, k));
      after = evaluate(columns, codes, others, weights, next);
      if (after.deviance <= state.deviance * (1 + 1e-12)) break;
    }
    const settled = Math.abs(state.deviance - after.deviance) <= SETTLED * (Math.abs(after.deviance) + 0.1);
    // Where classes are separated, log-odds go on growing by about 1 a step when the deviance has long settled.
    const grows = settled && after.largest - state.largest > GROWTH;
    theta = next;
    state = after;
    separated = grows || state.largest > BEYOND || state.deviance < 1e-6;
    if (settled || separated) break;
    if (step === MOST_STEPS - 1) separated = true;
  }
  const { hessian } = derivatives(columns, codes, others, weights, state.probabilities);
  return {
    estimates: Array.from({ length: others }, (_, k) => theta.slice(k * width, (k + 1) * width)),
    covariance: separated ? null : invert(hessian),
    deviance: state.deviance,
    separated,
  };
}

interface Evaluated {
  /** For each of the other classes. */
  readonly probabilities: readonly Float64Array[];
  readonly deviance: number;
  /** The largest log-odds of a row, on either side. */
  readonly largest: number;
}

function evaluate(
  columns: readonly Float64Array[],
  codes: Int32Array,
  others: number,
  weights: Float64Array | null,
  theta: Float64Array,
): Evaluated {
  const n = codes.length;
  const width = columns.length + 1;
  const logits = Array.from({ length: others }, (_, k) => {
    const out = new Float64Array(n).fill(theta[k * width] ?? 0);
    columns.forEach((column, c) => {
      const slope = theta[k * width + c + 1] ?? 0;
      for (let i = 0; i < n; i++) out[i] = (out[i] ?? 0) + slope * (column[i] ?? 0);
    });
    return out;
  });
  let [deviance, largest] = [0, 0];
  for (let i = 0; i < n; i++) {
    let top = 0;
    for (const logit of logits) top = Math.max(top, logit[i] ?? 0);
    const code = codes[i] ?? 0;
    const own = code === 0 ? 0 : (logits[code - 1]?.[i] ?? 0);
    let sum = Math.exp(-top);
    for (const logit of logits) {
      const value = logit[i] ?? 0;
      largest = Math.max(largest, Math.abs(value));
      logit[i] = Math.exp(value - top);
      sum += logit[i] ?? 0;
    }
    for (const logit of logits) logit[i] = (logit[i] ?? 0) / sum;
    deviance += 2 * (weights ? (weights[i] ?? 0) : 1) * (Math.log(sum) + top - own);
  }
  return { probabilities: logits, deviance, largest };
}

function derivatives(
  columns: readonly Float64Array[],
  codes: Int32Array,
  others: number,
  weights: Float64Array | null,
  probabilities: readonly Float64Array[],
): { gradient: Float64Array; hessian: Float64Array[] } {
  const n = codes.length;
  const width = columns.length + 1;
  const size = others * width;
  const gradient = new Float64Array(size);
  const hessian = Array.from({ length: size }, () => new Float64Array(size));
  const factor = new Float64Array(n);
  const product = new Float64Array(n);
  for (let k = 0; k < others; k++) {
    const own = at(probabilities, k);
    for (let i = 0; i < n; i++)
      factor[i] = (weights ? (weights[i] ?? 0) : 1) * ((codes[i] === k + 1 ? 1 : 0) - (own[i] ?? 0));
    for (let a = 0; a < width; a++) gradient[k * width + a] = dot(factor, columns[a - 1]);
    for (let l = 0; l <= k; l++) {
      const other = at(probabilities, l);
      for (let i = 0; i < n; i++)
        factor[i] = (weights ? (weights[i] ?? 0) : 1) * (own[i] ?? 0) * ((k === l ? 1 : 0) - (other[i] ?? 0));
      for (let a = 0; a < width; a++) {
        const column = columns[a - 1];
        for (let i = 0; i < n; i++) product[i] = (factor[i] ?? 0) * (column ? (column[i] ?? 0) : 1);
        for (let b = 0; b < (k === l ? a + 1 : width); b++) {
          const value = dot(product, columns[b - 1]);
          at(hessian, k * width + a)[l * width + b] = value;
          at(hessian, l * width + b)[k * width + a] = value;
        }
      }
    }
  }
  return { gradient, hessian };
}

function dot(factor: Float64Array, column: Float64Array | undefined): number {
  let sum = 0;
  if (column) for (let i = 0; i < factor.length; i++) sum += (factor[i] ?? 0) * (column[i] ?? 0);
  else for (let i = 0; i < factor.length; i++) sum += factor[i] ?? 0;
  return sum;
}

/** A⁻¹ b; null where A is not positive definite. */
function solve(matrix: readonly Float64Array[], right: Float64Array): Float64Array | null {
  const factor = cholesky(matrix);
  return factor && substitute(factor, right);
}

function substitute(factor: readonly Float64Array[], right: Float64Array): Float64Array {
  const solution = right.slice();
  const n = right.length;
  for (let i = 0; i < n; i++) {
    const row = at(factor, i);
    for (let j = 0; j < i; j++) solution[i] = (solution[i] ?? 0) - (row[j] ?? 0) * (solution[j] ?? 0);
    solution[i] = (solution[i] ?? 0) / at(row, i);
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let j = i + 1; j < n; j++)
      solution[i] = (solution[i] ?? 0) - at(at(factor, j), i) * (solution[j] ?? 0);
    solution[i] = (solution[i] ?? 0) / at(at(factor, i), i);
  }
  return solution;
}

function invert(matrix: readonly Float64Array[]): Float64Array[] | null {
  const factor = cholesky(matrix);
  return (
    factor &&
    matrix.map((_, k) => {
      const unit = new Float64Array(matrix.length);
      unit[k] = 1;
      return substitute(factor, unit);
    })
  );
}
