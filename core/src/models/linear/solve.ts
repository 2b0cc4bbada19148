import { at } from '../../foundation/numbers.js';
import { cholesky } from './elimination.js';

/** Shares of the mean diagonal that are added to a matrix that is singular, one after another. */
const DAMPINGS = [1e-12, 1e-10, 1e-8, 1e-6, 1e-4];

export function dot(factor: Float64Array, column: Float64Array | undefined): number {
  let sum = 0;
  if (column) for (let i = 0; i < factor.length; i++) sum += (factor[i] ?? 0) * (column[i] ?? 0);
  else for (let i = 0; i < factor.length; i++) sum += factor[i] ?? 0;
  return sum;
}

/** A⁻¹ b; where A is singular, of A with a little more on its diagonal. */
export function solve(
  matrix: readonly Float64Array[],
  right: Float64Array,
): { readonly move: Float64Array; readonly damped: boolean } {
  const factor = cholesky(matrix);
  if (factor) return { move: substitute(factor, right), damped: false };
  const mean = matrix.reduce((sum, row, k) => sum + at(row, k), 0) / Math.max(1, matrix.length);
  for (const damping of DAMPINGS) {
    const damped = cholesky(
      matrix.map((row, k) => {
        const own = row.slice();
        own[k] = at(own, k) + damping * mean;
        return own;
      }),
    );
    if (damped) return { move: substitute(damped, right), damped: true };
  }
  return { move: new Float64Array(right.length), damped: true };
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

export function invert(matrix: readonly Float64Array[]): Float64Array[] | null {
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
