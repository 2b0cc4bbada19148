import { at } from '../numbers.js';

/**
 * Least squares by Householder reflections (Golub and Van Loan, Matrix Computations, 4th ed., algorithm 5.2.1), with
 * the columns centred and brought to unit length first, which keeps the sizes of columns out of it.
 *
 * @param columns p columns of n values each, n > p; an intercept is fitted besides
 * @param y n values
 * @returns slopes in the units of the columns, 0 for a column that the others make up; share of the variance of y that is explained, NaN
 * where y does not vary
 */
export function leastSquares(
  columns: readonly Float64Array[],
  y: Float64Array,
): { readonly slopes: Float64Array; readonly r2: number } {
  const n = y.length;
  const scaled = columns.map(centred);
  const target = centred(y);
  const residual = target.values.slice();
  const kept: { readonly column: number; readonly diagonal: number }[] = [];
  const work = scaled.map(({ values }) => values.slice());
  let step = 0;
  work.forEach((column, c) => {
    let square = 0;
    for (let i = step; i < n; i++) square += at(column, i) ** 2;
    const length = Math.sqrt(square);
    // What is left of a unit column once the earlier ones are taken out: nothing, where they make it up.
    if (length < 1e-9 || step >= n) return;
    const pivot = at(column, step) > 0 ? -length : length;
    const reflector = column.slice();
    reflector.fill(0, 0, step);
    reflector[step] = at(column, step) - pivot;
    const size = square - pivot * at(column, step);
    const reflect = (values: Float64Array) => {
      let dot = 0;
      for (let i = step; i < n; i++) dot += at(reflector, i) * at(values, i);
      const factor = dot / size;
      for (let i = step; i < n; i++) values[i] = at(values, i) - factor * at(reflector, i);
    };
    for (let later = c; later < work.length; later++) reflect(at(work, later));
    reflect(residual);
    kept.push({ column: c, diagonal: pivot });
    step++;
  });
  const solution = new Float64Array(columns.length);
  for (let k = kept.length - 1; k >= 0; k--) {
    const { column, diagonal } = at(kept, k);
    let value = at(residual, k);
    for (let later = k + 1; later < kept.length; later++) {
      const other = at(kept, later).column;
      value -= at(at(work, other), k) * at(solution, other);
    }
    solution[column] = value / diagonal;
  }
  let rest = 0;
  for (let i = kept.length; i < n; i++) rest += at(residual, i) ** 2;
  return {
    slopes: solution.map((value, c) =>
      at(scaled, c).length > 0 ? (value * target.length) / at(scaled, c).length : 0,
    ),
    r2: target.length > 0 ? 1 - rest : NaN,
  };
}

/** Values less their mean, divided by their length; length 0 where they do not vary. */
function centred(values: Float64Array): { values: Float64Array; length: number } {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const out = values.map((value) => value - mean);
  const length = Math.sqrt(out.reduce((total, value) => total + value * value, 0));
  const varies = length > 1e-12 * Math.abs(mean) * Math.sqrt(values.length);
  return { values: varies ? out.map((value) => value / length) : out.fill(0), length: varies ? length : 0 };
}
