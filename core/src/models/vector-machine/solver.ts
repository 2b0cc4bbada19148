import type { KernelCache } from './kernel-cache.js';

/**
 * A dual problem: minimise ½ αᵀQα + pᵀα where 0 ≤ α ≤ limit and Σ sign α = 0, with Q = signₖ signₗ K. Of numbers each row has
 * two variables, one for either side of the tube.
 */
export interface Dual {
  /** The row of the kernel that each variable belongs to. */
  readonly rows: Int32Array;
  /** 1 or −1. */
  readonly signs: Int8Array;
  readonly linear: Float64Array;
  readonly limits: Float64Array;
}

export interface Solved {
  readonly alphas: Float64Array;
  /** Subtracted from what the support vectors say. */
  readonly offset: number;
  /** Whether it came as near to the best as was asked for. */
  readonly isDone: boolean;
}

/** How far a pair of variables may be from the best at the end. */
const TOLERANCE = 1e-4;
/** In place of a curvature that is not above 0. */
const LEAST_CURVATURE = 1e-12;

/** A variable is so near to its limit that it is at it. */
const isAt = (alpha: number, limit: number): boolean => alpha >= limit * (1 - 1e-12);

/**
 * Sequential minimal optimisation: two variables at a time, the pair whose change is expected to help most by its curvature (Fan,
 * Chen and Lin, Working set selection using second order information, JMLR 6, 2005; LIBSVM).
 *
 * @param most steps
 */
export function solveDual({ rows, signs, linear, limits }: Dual, kernel: KernelCache, most: number): Solved {
  const count = rows.length;
  const alphas = new Float64Array(count);
  const gradients = linear.slice();
  const pair: Pair = { first: -1, second: -1, gap: Infinity };
  let isDone = false;
  for (let step = 0; step < most; step++) {
    selectFirst(alphas, gradients, signs, limits, pair);
    if (pair.first >= 0)
      selectSecond(
        alphas,
        gradients,
        signs,
        limits,
        rows,
        kernel.row(rows[pair.first] ?? 0),
        kernel.diagonal,
        pair,
      );
    if (pair.first < 0 || pair.second < 0 || pair.gap < TOLERANCE) {
      isDone = true;
      break;
    }
    const { first, second } = pair;
    const [oldFirst, oldSecond] = [alphas[first] ?? 0, alphas[second] ?? 0];
    const firstRow = kernel.row(rows[first] ?? 0);
    const curvature =
      (kernel.diagonal[rows[first] ?? 0] ?? 0) +
      (kernel.diagonal[rows[second] ?? 0] ?? 0) -
      2 * (firstRow[rows[second] ?? 0] ?? 0);
    move(alphas, gradients, signs, limits, pair, Math.max(curvature, LEAST_CURVATURE));
    const byFirst = (signs[first] ?? 0) * ((alphas[first] ?? 0) - oldFirst);
    const bySecond = (signs[second] ?? 0) * ((alphas[second] ?? 0) - oldSecond);
    addRows(gradients, signs, rows, firstRow, byFirst, kernel.row(rows[second] ?? 0), bySecond);
  }
  return { alphas, offset: offsetOf(alphas, gradients, signs, limits), isDone };
}

interface Pair {
  first: number;
  second: number;
  /** How far the pair is from the best. */
  gap: number;
}

/** The variable that may grow along its sign and would gain most by the first order. */
function selectFirst(
  alphas: Float64Array,
  gradients: Float64Array,
  signs: Int8Array,
  limits: Float64Array,
  pair: Pair,
): void {
  let most = -Infinity;
  pair.first = -1;
  pair.gap = -Infinity;
  for (let k = 0; k < alphas.length; k++) {
    const alpha = alphas[k] ?? 0;
    const isUp = (signs[k] ?? 0) > 0;
    if (isUp ? isAt(alpha, limits[k] ?? 0) : alpha <= 0) continue;
    const own = isUp ? -(gradients[k] ?? 0) : (gradients[k] ?? 0);
    if (own > most) {
      most = own;
      pair.first = k;
      pair.gap = own;
    }
  }
}

/** The variable that goes the other way and gains most with the first one by the second order. */
function selectSecond(
  alphas: Float64Array,
  gradients: Float64Array,
  signs: Int8Array,
  limits: Float64Array,
  rows: Int32Array,
  row: Float64Array,
  diagonal: Float64Array,
  pair: Pair,
): void {
  const most = pair.gap;
  const ownDiagonal = diagonal[rows[pair.first] ?? 0] ?? 0;
  let best = Infinity;
  let least = -Infinity;
  pair.second = -1;
  pair.gap = -Infinity;
  for (let k = 0; k < alphas.length; k++) {
    const alpha = alphas[k] ?? 0;
    const isUp = (signs[k] ?? 0) > 0;
    if (isUp ? alpha <= 0 : isAt(alpha, limits[k] ?? 0)) continue;
    const own = isUp ? (gradients[k] ?? 0) : -(gradients[k] ?? 0);
    if (own > least) {
      least = own;
      pair.gap = most + own;
    }
    const gain = most + own;
    if (gain <= 0) continue;
    const place = rows[k] ?? 0;
    const curvature = ownDiagonal + (diagonal[place] ?? 0) - 2 * (row[place] ?? 0);
    const value = -(gain * gain) / (curvature > 0 ? curvature : LEAST_CURVATURE);
    if (value <= best) {
      best = value;
      pair.second = k;
    }
  }
}

/** Moves both variables to the best of the line on which the sum stays 0, within their limits. */
function move(
  alphas: Float64Array,
  gradients: Float64Array,
  signs: Int8Array,
  limits: Float64Array,
  { first, second }: Pair,
  curvature: number,
): void {
  const [signA, signB] = [signs[first] ?? 0, signs[second] ?? 0];
  const [a, b] = [alphas[first] ?? 0, alphas[second] ?? 0];
  const [limitA, limitB] = [limits[first] ?? 0, limits[second] ?? 0];
  // Along its sign the first grows by t, the second falls by t.
  const best = (signB * (gradients[second] ?? 0) - signA * (gradients[first] ?? 0)) / curvature;
  const roomA = signA > 0 ? limitA - a : a;
  const roomB = signB > 0 ? b : limitB - b;
  const step = Math.min(best, roomA, roomB);
  // A variable that reaches its limit is set to it, so that rounding leaves none almost there.
  alphas[first] = step === roomA ? (signA > 0 ? limitA : 0) : a + signA * step;
  alphas[second] = step === roomB ? (signB > 0 ? 0 : limitB) : b - signB * step;
}

function addRows(
  gradients: Float64Array,
  signs: Int8Array,
  rows: Int32Array,
  first: Float64Array,
  byFirst: number,
  second: Float64Array,
  bySecond: number,
): void {
  for (let k = 0; k < gradients.length; k++) {
    const row = rows[k] ?? 0;
    gradients[k] =
      (gradients[k] ?? 0) + (signs[k] ?? 0) * (byFirst * (first[row] ?? 0) + bySecond * (second[row] ?? 0));
  }
}

/** The mean over variables between their limits, else the middle of what the others allow. */
function offsetOf(
  alphas: Float64Array,
  gradients: Float64Array,
  signs: Int8Array,
  limits: Float64Array,
): number {
  let [sum, free, above, below] = [0, 0, Infinity, -Infinity];
  for (let k = 0; k < alphas.length; k++) {
    const own = (signs[k] ?? 0) * (gradients[k] ?? 0);
    const alpha = alphas[k] ?? 0;
    const isUp = (signs[k] ?? 0) > 0;
    if (isAt(alpha, limits[k] ?? 0)) {
      if (isUp) below = Math.max(below, own);
      else above = Math.min(above, own);
    } else if (alpha <= 0) {
      if (isUp) above = Math.min(above, own);
      else below = Math.max(below, own);
    } else {
      sum += own;
      free++;
    }
  }
  if (free > 0) return sum / free;
  return Number.isFinite(above) && Number.isFinite(below) ? (above + below) / 2 : 0;
}
