import { at } from '../numbers.js';

/** A fit by least squares, of p columns and an intercept. */
export interface LeastSquares {
  readonly intercept: number;
  /** In the units of the columns; 0 for a column that the others make up. */
  readonly slopes: Float64Array;
  /** The columns that have a slope of their own, ascending. */
  readonly kept: readonly number[];
  /** Weighted sum of squared residuals. */
  readonly rest: number;
  /** Share of the weighted variance of y that is explained; NaN where y does not vary. */
  readonly r2: number;
  /**
   * Inverse of the cross products of the intercept and the kept columns, in this order: times the residual variance it
   * is the covariance of the estimates.
   */
  readonly inverse: () => Float64Array[];
  /** How far each row pulls the fit towards itself: the diagonal of the hat matrix. */
  readonly leverage: () => Float64Array;
}

/** What is left of a unit column once the earlier ones are taken out, below which they make it up. */
const NOTHING_LEFT = 1e-10;

/**
 * Least squares by Householder reflections (Golub and Van Loan, Matrix Computations, 4th ed., algorithm 5.2.1), with
 * the columns centred and brought to unit length first, which keeps the sizes of columns out of it.
 *
 * @param columns p columns of n values each, n > p; an intercept is fitted besides
 * @param y n values
 * @param weights of the rows, or null for 1 each
 */
export function leastSquares(
  columns: readonly Float64Array[],
  y: Float64Array,
  weights: Float64Array | null = null,
): LeastSquares {
  const n = y.length;
  const roots = weights ? weights.map(Math.sqrt) : null;
  const total = weights ? sumOf(weights) : n;
  const scaled = columns.map((column) => centred(column, weights, roots, total));
  const target = centred(y, weights, roots, total);
  const residual = target.values;
  const work = scaled.map(({ values }) => values);
  const reflectors: { readonly values: Float64Array; readonly size: number }[] = [];
  const kept: number[] = [];
  work.forEach((column, c) => {
    const step = kept.length;
    let square = 0;
    for (let i = step; i < n; i++) square += (column[i] ?? 0) ** 2;
    const length = Math.sqrt(square);
    if (length < NOTHING_LEFT || step >= n) return;
    const first = column[step] ?? 0;
    const pivot = first > 0 ? -length : length;
    const values = column.slice();
    values.fill(0, 0, step);
    values[step] = first - pivot;
    const reflector = { values, size: square - pivot * first };
    for (let later = c; later < work.length; later++) reflect(at(work, later), reflector, step);
    reflect(residual, reflector, step);
    reflectors.push(reflector);
    kept.push(c);
  });
  // The upper triangle is in the first rows of the columns that were kept.
  const upper = kept.map((c) => at(work, c).slice(0, kept.length));
  const own = solveUpper(upper, residual);
  const slopes = new Float64Array(columns.length);
  const lengths = kept.map((c) => at(scaled, c).length);
  kept.forEach((c, k) => {
    slopes[c] = (at(own, k) * target.length) / at(lengths, k);
  });
  let left = 0;
  for (let i = kept.length; i < n; i++) left += (residual[i] ?? 0) ** 2;
  const means = kept.map((c) => at(scaled, c).mean);
  return {
    intercept: kept.reduce((rest, c, k) => rest - at(slopes, c) * at(means, k), target.mean),
    slopes,
    kept,
    rest: left * target.length ** 2,
    r2: target.length > 0 ? 1 - left : NaN,
    inverse: () => inverseOf(upper, lengths, means, total),
    leverage: () => leverageOf(reflectors, n, weights, total),
  };
}

function reflect(
  values: Float64Array,
  { values: reflector, size }: { readonly values: Float64Array; readonly size: number },
  step: number,
): void {
  let dot = 0;
  for (let i = step; i < values.length; i++) dot += (reflector[i] ?? 0) * (values[i] ?? 0);
  const factor = dot / size;
  for (let i = step; i < values.length; i++) values[i] = (values[i] ?? 0) - factor * (reflector[i] ?? 0);
}

/** The solution of an upper triangular system, given by its columns. */
function solveUpper(upper: readonly Float64Array[], right: Float64Array): Float64Array {
  const solution = new Float64Array(upper.length);
  for (let k = upper.length - 1; k >= 0; k--) {
    let value = right[k] ?? 0;
    for (let later = k + 1; later < upper.length; later++)
      value -= at(at(upper, later), k) * at(solution, later);
    solution[k] = value / at(at(upper, k), k);
  }
  return solution;
}

function inverseOf(
  upper: readonly Float64Array[],
  lengths: readonly number[],
  means: readonly number[],
  total: number,
): Float64Array[] {
  const p = upper.length;
  const inverses = upper.map((_, k) => {
    const unit = new Float64Array(p);
    unit[k] = 1;
    return solveUpper(upper, unit);
  });
  // (RᵀR)⁻¹ = R⁻¹R⁻ᵀ, brought back to the units of the columns.
  const slopes = Array.from({ length: p }, (_, a) =>
    Float64Array.from({ length: p }, (_, b) => {
      const sum = inverses.reduce((so, column) => so + at(column, a) * at(column, b), 0);
      return sum / (at(lengths, a) * at(lengths, b));
    }),
  );
  const shift = slopes.map((row) => -row.reduce((so, value, b) => so + value * at(means, b), 0));
  const corner = 1 / total - shift.reduce((so, value, a) => so + value * at(means, a), 0);
  return [
    Float64Array.from([corner, ...shift]),
    ...slopes.map((row, a) => Float64Array.from([at(shift, a), ...row])),
  ];
}

/** Squares of the rows of Q, whose columns are unit vectors reflected back, and the intercept's own part. */
function leverageOf(
  reflectors: readonly { readonly values: Float64Array; readonly size: number }[],
  n: number,
  weights: Float64Array | null,
  total: number,
): Float64Array {
  const leverage = new Float64Array(n);
  for (let i = 0; i < n; i++) leverage[i] = (weights ? (weights[i] ?? 0) : 1) / total;
  reflectors.forEach((_, k) => {
    const column = new Float64Array(n);
    column[k] = 1;
    for (let step = k; step >= 0; step--) reflect(column, at(reflectors, step), step);
    for (let i = 0; i < n; i++) leverage[i] = (leverage[i] ?? 0) + (column[i] ?? 0) ** 2;
  });
  return leverage;
}

const sumOf = (values: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i] ?? 0;
  return sum;
};

/** Values less their mean, times the roots of the weights, divided by their length; length 0 where they do not vary. */
function centred(
  values: Float64Array,
  weights: Float64Array | null,
  roots: Float64Array | null,
  total: number,
): { values: Float64Array; length: number; mean: number } {
  const n = values.length;
  const meanOf = (from: number) => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += ((values[i] ?? 0) - from) * (weights ? (weights[i] ?? 0) : 1);
    return from + sum / total;
  };
  // The second pass takes back what rounding left in the first.
  const mean = meanOf(meanOf(0));
  const out = new Float64Array(n);
  let square = 0;
  for (let i = 0; i < n; i++) {
    const value = ((values[i] ?? 0) - mean) * (roots ? (roots[i] ?? 0) : 1);
    out[i] = value;
    square += value * value;
  }
  const length = Math.sqrt(square);
  if (!(length > 1e-12 * Math.abs(mean) * Math.sqrt(total))) return { values: out.fill(0), length: 0, mean };
  for (let i = 0; i < n; i++) out[i] = (out[i] ?? 0) / length;
  return { values: out, length, mean };
}
