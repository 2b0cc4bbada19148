import { at } from '../../foundation/numbers.js';

/** Penalties of a path (R, glmnet: nlambda). */
const PATH_LENGTH = 100;
/** Change of a coefficient, in deviations of the target, below which it has settled. */
const SETTLED = 1e-8;
const MOST_ROUNDS = 100_000;
/** The mixing that the largest penalty is reckoned with for a ridge, which no penalty makes 0 (R, glmnet). */
const LEAST_MIXING = 1e-3;

/**
 * Penalties from the smallest that makes every coefficient 0 down, equally far apart on a logarithmic scale (Friedman,
 * Hastie and Tibshirani, Journal of Statistical Software 33, 2010, 2.5).
 *
 * @param steepest the largest absolute slope of the loss at no coefficients
 */
export function penaltyPath(steepest: number, mixing: number, rows: number, columns: number): number[] {
  const largest = steepest / Math.max(mixing, LEAST_MIXING);
  const smallest = rows > columns ? 1e-4 : 1e-2;
  return Array.from({ length: PATH_LENGTH }, (_, k) => largest * smallest ** (k / (PATH_LENGTH - 1)));
}

/**
 * A quadratic problem: ½ bᵀ G b − cᵀ b + λ(α‖b‖₁ + (1 − α)/2 ‖b‖₂²), whose matrix G is asked for by column, so that
 * columns that never take part are never worked out.
 */
export interface Quadratic {
  readonly size: number;
  /** c. */
  readonly linear: Float64Array;
  /** The diagonal of G. */
  readonly diagonal: Float64Array;
  /** Column j of G. */
  readonly column: (j: number) => Float64Array;
}

/**
 * Solves it by coordinate descent from the coefficients that are there, first over those that take part, then over all
 * (Friedman, Hastie and Tibshirani, 2010, 2.1 to 2.3, covariance updates).
 *
 * @param b coefficients; changed in place
 * @param gradient c − G b; changed in place
 * @param l1 the part of the penalty on absolute values, `l2` on squares
 */
export function descend(
  { size, diagonal, column }: Quadratic,
  b: Float64Array,
  gradient: Float64Array,
  l1: number,
  l2: number,
): void {
  const visit = (j: number): number => {
    const curve = diagonal[j] ?? 0;
    if (curve === 0) return 0;
    const old = b[j] ?? 0;
    const slope = (gradient[j] ?? 0) + curve * old;
    const shrunk = Math.abs(slope) - l1;
    const next = shrunk > 0 ? (Math.sign(slope) * shrunk) / (curve + l2) : 0;
    const move = next - old;
    if (move === 0) return 0;
    b[j] = next;
    const own = column(j);
    for (let k = 0; k < size; k++) gradient[k] = (gradient[k] ?? 0) - move * (own[k] ?? 0);
    return move * move * curve;
  };
  const active: number[] = [];
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let moved = 0;
    for (let j = 0; j < size; j++) moved = Math.max(moved, visit(j));
    if (moved < SETTLED ** 2) return;
    active.length = 0;
    for (let j = 0; j < size; j++) if (b[j] !== 0) active.push(j);
    for (; round < MOST_ROUNDS; round++) {
      let inner = 0;
      for (const j of active) inner = Math.max(inner, visit(j));
      if (inner < SETTLED ** 2) break;
    }
  }
}

/**
 * The quadratic of weighted least squares with an intercept that is not penalised: G = XᵀWX − w m mᵀ and c = XᵀWz, where
 * w is the sum of the weights and m the weighted means of the columns.
 *
 * @param z centred by the weights
 * @param means null where the columns are centred by the weights already
 */
export function quadraticOf(
  columns: readonly Float64Array[],
  weights: Float64Array,
  z: Float64Array,
  means: Float64Array | null = null,
): Quadratic {
  let total = 0;
  if (means) for (let i = 0; i < weights.length; i++) total += weights[i] ?? 0;
  const shift = (j: number, k: number) => (means ? total * (means[j] ?? 0) * (means[k] ?? 0) : 0);
  const size = columns.length;
  const weighted = new Array<Float64Array | undefined>(size);
  const known = new Array<Float64Array | undefined>(size);
  const n = z.length;
  const weigh = (j: number): Float64Array => {
    const column = at(columns, j);
    const out = new Float64Array(n);
    for (let i = 0; i < n; i++) out[i] = (column[i] ?? 0) * (weights[i] ?? 0);
    return (weighted[j] ??= out);
  };
  const linear = new Float64Array(size);
  const diagonal = new Float64Array(size);
  for (let j = 0; j < size; j++) {
    const column = at(columns, j);
    let [c, d] = [0, 0];
    for (let i = 0; i < n; i++) {
      const x = (column[i] ?? 0) * (weights[i] ?? 0);
      c += x * (z[i] ?? 0);
      d += x * (column[i] ?? 0);
    }
    linear[j] = c;
    diagonal[j] = d - shift(j, j);
  }
  return {
    size,
    linear,
    diagonal,
    column: (j) => {
      const found = known[j];
      if (found) return found;
      const own = weighted[j] ?? weigh(j);
      const out = new Float64Array(size);
      for (let k = 0; k < size; k++) {
        // What was worked out for the other column holds for this one as well.
        const there = known[k];
        out[k] = there ? (there[j] ?? 0) : dot(own, at(columns, k)) - shift(j, k);
      }
      return (known[j] = out);
    },
  };
}

/** With four sums at once, which do not wait for one another. */
function dot(a: Float64Array, b: Float64Array): number {
  let [p, q, r, s] = [0, 0, 0, 0];
  const end = a.length - (a.length % 4);
  for (let i = 0; i < end; i += 4) {
    p += (a[i] ?? 0) * (b[i] ?? 0);
    q += (a[i + 1] ?? 0) * (b[i + 1] ?? 0);
    r += (a[i + 2] ?? 0) * (b[i + 2] ?? 0);
    s += (a[i + 3] ?? 0) * (b[i + 3] ?? 0);
  }
  for (let i = end; i < a.length; i++) p += (a[i] ?? 0) * (b[i] ?? 0);
  return p + q + r + s;
}
