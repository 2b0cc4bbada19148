import { at } from '../../foundation/numbers.js';
import type { Predicted } from '../contract/state.js';
import type { Target } from '../prepared/target.js';
import { truthOf } from './members.js';

/** Products of the errors of members: for each two the weighted mean over rows, summed over the classes. */
export function errorProducts(
  said: readonly Predicted[],
  target: Target,
  weights: Float64Array | null,
): number[][] {
  const rows = target.kind === 'numbers' ? target.values.length : target.codes.length;
  const total = weights ? weights.reduce((sum, weight) => sum + weight, 0) : rows;
  const products = said.map(() => said.map(() => 0));
  const errors = new Float64Array(said.length);
  const outputs = said[0]?.length ?? 0;
  for (let row = 0; row < rows; row++) {
    const weight = (weights ? (weights[row] ?? 0) : 1) / total;
    for (let output = 0; output < outputs; output++) {
      const truth = truthOf(target, output, row);
      for (let i = 0; i < said.length; i++) errors[i] = (said[i]?.[output]?.[row] ?? NaN) - truth;
      for (let i = 0; i < said.length; i++) {
        const own = at(products, i);
        for (let j = 0; j < said.length; j++)
          own[j] = (own[j] ?? 0) + weight * (errors[i] ?? 0) * (errors[j] ?? 0);
      }
    }
  }
  return products;
}

/**
 * The weights of members, none negative and 1 together, with which the weighted mean of what they say has the least squared
 * error. Every choice of members that count is tried, each by its equations, which is exact; of equal ones the choice of
 * fewer members is taken, and that of earlier ones (Breiman, Stacked regressions, 1996, keeps weights from being negative;
 * van der Laan, Polley and Hubbard, Super learner, 2007, have them sum to 1).
 *
 * @param products as `errorProducts` gives them; at most a dozen members
 */
export function bestWeights(products: readonly (readonly number[])[]): number[] {
  const count = products.length;
  const scale = Math.max(...products.map((row, i) => at(row, i)), Number.MIN_VALUE);
  const choices = Array.from({ length: 2 ** count - 1 }, (_, i) => membersOf(i + 1, count)).sort(
    (a, b) => a.length - b.length,
  );
  let best: { weights: number[]; error: number } | null = null;
  for (const members of choices) {
    const own = solve(members.map((i) => members.map((j) => at(at(products, i), j) / scale)));
    if (!own?.every((weight) => weight >= 0)) continue;
    const weights = products.map((_, i) => own[members.indexOf(i)] ?? 0);
    const error = errorOf(products, weights) / scale;
    if (!best || error < best.error - 1e-12) best = { weights, error };
  }
  return best?.weights ?? products.map(() => 1 / count);
}

const membersOf = (set: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => i).filter((i) => (set >> i) & 1);

const errorOf = (products: readonly (readonly number[])[], weights: readonly number[]): number =>
  products.reduce(
    (sum, row, i) => sum + at(weights, i) * row.reduce((part, value, j) => part + value * at(weights, j), 0),
    0,
  );

/** What the products of a member with itself are raised by, so that equations of members who say the same have one answer. */
const RAISED = 1e-9;

/**
 * Where the gradient is the same for all members: G w = 1, brought to the sum 1. Cholesky's method; null where it has no
 * answer.
 */
function solve(products: readonly (readonly number[])[]): number[] | null {
  const n = products.length;
  if (n === 1) return [1];
  const lower = products.map(() => new Float64Array(n));
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = at(at(products, i), j) * (i === j ? 1 + RAISED : 1);
      for (let k = 0; k < j; k++) sum -= (lower[i]?.[k] ?? 0) * (lower[j]?.[k] ?? 0);
      if (i === j && !(sum > 0)) return null;
      at(lower, i)[j] = i === j ? Math.sqrt(sum) : sum / (lower[j]?.[j] ?? NaN);
    }
  const w = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let sum = 1;
    for (let k = 0; k < i; k++) sum -= (lower[i]?.[k] ?? 0) * (w[k] ?? 0);
    w[i] = sum / (lower[i]?.[i] ?? NaN);
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = w[i] ?? 0;
    for (let k = i + 1; k < n; k++) sum -= (lower[k]?.[i] ?? 0) * (w[k] ?? 0);
    w[i] = sum / (lower[i]?.[i] ?? NaN);
  }
  const total = w.reduce((sum, value) => sum + value, 0);
  return total > 0 ? Array.from(w, (value) => value / total) : null;
}
