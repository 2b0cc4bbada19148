import { at } from '../../foundation/numbers.js';
import { dot, solve, invert } from './solve.js';

const MOST_STEPS = 200;

/** Change of the deviance, relative to its size, below which it has settled (R, glm.control: 1e-8). */
const SETTLED = 1e-12;

/**
 * Growth of the largest log-odds of a row in a step, from which on estimates grow without end once the deviance has
 * settled: about 1 where classes are separated, and next to nothing at an optimum, where Newton's method converges
 * quadratically (Albert and Anderson, Biometrika 71, 1984, on separation).
 */
const GROWTH = 0.01;

/** Log-odds of each class after the one that others are compared with. */
export interface NewtonFit {
  /** For each of these classes an intercept and then p slopes. */
  readonly estimates: readonly Float64Array[];
  /** Covariance of all of them, class after class; null where the classes are separated. */
  readonly covariance: readonly Float64Array[] | null;
  readonly deviance: number;
  /** Whether estimates grow without end because the classes, or some rows of them, can be separated perfectly. */
  readonly separated: boolean;
}

/**
 * Logistic regression by Newton's method, which is iteratively reweighted least squares (McCullagh and Nelder,
 * Generalized Linear Models, 2nd ed., 2.5; Hastie, Tibshirani and Friedman, 4.4.1), on orthonormal columns, so that
 * columns that nearly make each other up lose no digits. Where classes are separated it stops where the deviance has
 * settled: predictions are those of its limit.
 *
 * @param columns p columns of n values of weighted mean 0, none collinear with others
 * @param codes class of each row; the first class is the one that others are compared with
 */
export function newton(
  columns: readonly Float64Array[],
  codes: Int32Array,
  classes: number,
  weights: Float64Array | null,
): NewtonFit {
  const { basis, upper } = orthonormal(columns, weights);
  const width = columns.length + 1;
  const others = classes - 1;
  let theta = new Float64Array(others * width);
  let state = evaluate(basis, codes, others, weights, theta);
  let separated = false;
  for (let step = 0; step < MOST_STEPS; step++) {
    const { gradient, hessian } = derivatives(basis, codes, others, weights, state.probabilities);
    const { move, damped } = solve(hessian, gradient);
    let next = theta;
    let after = state;
    // Half a step, where a whole one goes too far.
    for (let length = 1; length > 1e-6; length /= 2) {
      next = theta.map((value, k) => value + length * at(move, k));
      after = evaluate(basis, codes, others, weights, next);
      if (after.deviance <= state.deviance * (1 + 1e-12)) break;
    }
    const settled = Math.abs(state.deviance - after.deviance) <= SETTLED * (Math.abs(after.deviance) + 0.1);
    const growth = after.largest - state.largest;
    theta = next;
    state = after;
    separated = damped || growth > GROWTH;
    if (settled) break;
  }
  const { hessian } = derivatives(basis, codes, others, weights, state.probabilities);
  const covariance = separated ? null : invert(hessian);
  return {
    estimates: Array.from({ length: others }, (_, k) =>
      inColumns(theta.slice(k * width, (k + 1) * width), upper),
    ),
    covariance: covariance && covarianceInColumns(covariance, upper, others),
    deviance: state.deviance,
    separated: separated || covariance === null,
  };
}

/** Columns as an orthonormal basis times √n, and the upper triangle by which the basis makes the columns: column = basis · upper. */
interface Orthonormal {
  readonly basis: readonly Float64Array[];
  /** `upper[c]` are the parts of the basis in column c. */
  readonly upper: readonly Float64Array[];
}

/** Gram–Schmidt, modified and done twice (Golub and Van Loan, 5.2.8), by the inner product of the row weights. */
function orthonormal(columns: readonly Float64Array[], weights: Float64Array | null): Orthonormal {
  const n = columns[0]?.length ?? 0;
  const weightOf = (i: number) => (weights ? (weights[i] ?? 0) : 1);
  let total = 0;
  for (let i = 0; i < n; i++) total += weightOf(i);
  const inner = (a: Float64Array, b: Float64Array): number => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += weightOf(i) * (a[i] ?? 0) * (b[i] ?? 0);
    return sum / total;
  };
  const basis: Float64Array[] = [];
  const upper = columns.map((column, c) => {
    const own = column.slice();
    const parts = new Float64Array(columns.length);
    for (let pass = 0; pass < 2; pass++)
      basis.forEach((unit, k) => {
        const part = inner(unit, own);
        parts[k] = (parts[k] ?? 0) + part;
        for (let i = 0; i < n; i++) own[i] = (own[i] ?? 0) - part * (unit[i] ?? 0);
      });
    const length = Math.sqrt(inner(own, own));
    parts[c] = length;
    if (length > 0) for (let i = 0; i < n; i++) own[i] = (own[i] ?? 0) / length;
    basis.push(own);
    return parts;
  });
  return { basis, upper };
}

/** An intercept and slopes of the basis as those of the columns. */
function inColumns(own: Float64Array, upper: readonly Float64Array[]): Float64Array {
  const out = own.slice();
  for (let k = upper.length - 1; k >= 0; k--) {
    let value = at(out, k + 1);
    for (let later = k + 1; later < upper.length; later++)
      value -= at(at(upper, later), k) * at(out, later + 1);
    const pivot = at(at(upper, k), k);
    out[k + 1] = pivot > 0 ? value / pivot : 0;
  }
  return out;
}

/** A covariance of estimates of the basis as that of the columns: the map of `inColumns` on both sides. */
function covarianceInColumns(
  covariance: readonly Float64Array[],
  upper: readonly Float64Array[],
  others: number,
): Float64Array[] {
  const width = upper.length + 1;
  const mapped = (row: Float64Array): Float64Array => {
    const out = new Float64Array(row.length);
    for (let k = 0; k < others; k++)
      out.set(inColumns(row.slice(k * width, (k + 1) * width), upper), k * width);
    return out;
  };
  const half = covariance.map(mapped);
  const turned = half.map((_, a) => Float64Array.from(half, (row) => at(row, a)));
  return turned.map(mapped);
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
