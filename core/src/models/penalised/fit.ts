import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import type { PathPoint } from '../contract/description.js';
import { standardise, unscaled, type Standardised } from '../linear/standardised.js';
import type { Training } from '../contract/sample.js';
import { asNumbers } from '../prepared/target.js';
import { descend, penaltyPath, quadraticOf } from './path.js';

/** Steps of reweighting for two classes; each starts where the one before ended. */
const MOST_REWEIGHTS = 50;
const SETTLED = 1e-8;
/** Probabilities are kept this far from 0 and 1 (R, glmnet). */
const EDGE = 1e-9;

/** A problem of penalised least squares or likelihood, ready for any penalty. */
export interface Penalised {
  /** Penalties from the largest that is worth trying down. */
  readonly path: (mixing: number) => number[];
  /** Fits for penalties in descending order, each from the one before. */
  readonly fits: (penalties: readonly number[], mixing: number) => PathPoint[];
}

interface Prepared {
  readonly scale: Standardised;
  readonly y: Float64Array;
  /** Of the rows, summing to 1. */
  readonly shares: Float64Array;
  readonly mean: number;
}

function prepared(training: Training): Prepared {
  const y = asNumbers(training.target);
  const { weights } = training;
  const total = weights ? weights.reduce((a, b) => a + b, 0) : y.length;
  const shares = new Float64Array(y.length);
  for (let i = 0; i < y.length; i++) shares[i] = (weights ? (weights[i] ?? 0) : 1) / total;
  let mean = 0;
  for (let i = 0; i < y.length; i++) mean += (shares[i] ?? 0) * (y[i] ?? 0);
  return { scale: standardise(training.design(), weights), y, shares, mean };
}

const pointOf = (
  penalty: number,
  intercept: number,
  slopes: Float64Array,
  scale: Standardised,
  devianceRatio: number,
): PathPoint => {
  const own = unscaled(intercept, slopes, scale);
  return {
    penalty,
    intercept: own.intercept,
    coefficients: own.slopes,
    nonzero: slopes.reduce((count, slope) => count + (slope === 0 ? 0 : 1), 0),
    devianceRatio,
  };
};

/**
 * Numbers: 1/(2n) RSS + λ(α‖b‖₁ + (1 − α)/2 ‖b‖₂²) on standardised features.
 *
 * @param byDeviation whether the penalty is reckoned on a target of deviation 1 and then brought back, as R's glmnet does:
 * the absolute part stays as it is, the quadratic part is divided by the deviation
 */
export function penalisedNumbers(training: Training, byDeviation: boolean): Penalised {
  const { scale, y, shares, mean } = prepared(training);
  const centred = y.map((value) => value - mean);
  const spread = Math.sqrt(centred.reduce((sum, value, i) => sum + at(shares, i) * value * value, 0));
  // Worked on a target of deviation 1, so that what has settled does not depend on its unit.
  const unit = spread > 0 ? spread : 1;
  const quadratic = quadraticOf(
    scale.columns,
    shares,
    centred.map((value) => value / unit),
  );
  const steepest = unit * quadratic.linear.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return {
    path: (mixing) => penaltyPath(steepest, mixing, y.length, quadratic.size),
    fits: (penalties, mixing) => {
      const b = new Float64Array(quadratic.size);
      const gradient = quadratic.linear.slice();
      return penalties.map((penalty) => {
        const l2 = penalty * (1 - mixing) * (byDeviation ? 1 / unit : 1);
        descend(quadratic, b, gradient, (penalty * mixing) / unit, l2);
        // RSS / n = 1 − 2cᵀb + bᵀGb, and Gb = c − gradient.
        const explained = b.reduce(
          (sum, slope, j) => sum + slope * (at(quadratic.linear, j) + at(gradient, j)),
          0,
        );
        return pointOf(
          penalty,
          mean,
          b.map((slope) => slope * unit),
          scale,
          explained,
        );
      });
    },
  };
}

/**
 * Two classes: −1/n log-likelihood + λ(α‖b‖₁ + (1 − α)/2 ‖b‖₂²) on standardised features, by reweighted least squares
 * (Friedman, Hastie and Tibshirani, 2010, 3).
 *
 * @throws SieveError `one-class`
 */
export function penalisedClasses(training: Training): Penalised {
  const { scale, y, shares, mean } = prepared(training);
  if (mean <= 0 || mean >= 1)
    throw new SieveError('one-class', 'All training rows are of one class: there is nothing to distinguish.');
  const { columns } = scale;
  const atNothing = quadraticOf(
    columns,
    shares,
    y.map((value) => value - mean),
  );
  const steepest = atNothing.linear.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  const nullDeviance = devianceOf(y, shares, () => mean);
  return {
    path: (mixing) => penaltyPath(steepest, mixing, y.length, columns.length),
    fits: (penalties, mixing) => {
      const b = new Float64Array(columns.length);
      let intercept = Math.log(mean / (1 - mean));
      return penalties.map((penalty) => {
        intercept = reweight(columns, y, shares, b, intercept, penalty * mixing, penalty * (1 - mixing));
        const logits = logitsOf(columns, b, intercept);
        const deviance = devianceOf(y, shares, (i) => chanceOf(at(logits, i)));
        return pointOf(penalty, intercept, b, scale, 1 - deviance / nullDeviance);
      });
    },
  };
}

/** Coefficients at one penalty, changed in place; the intercept is given back. */
function reweight(
  columns: readonly Float64Array[],
  y: Float64Array,
  shares: Float64Array,
  b: Float64Array,
  intercept: number,
  l1: number,
  l2: number,
): number {
  let origin = intercept;
  for (let step = 0; step < MOST_REWEIGHTS; step++) {
    const logits = logitsOf(columns, b, origin);
    const weights = new Float64Array(y.length);
    const working = new Float64Array(y.length);
    let [total, centre] = [0, 0];
    for (let i = 0; i < y.length; i++) {
      const chance = chanceOf(logits[i] ?? 0);
      const curve = chance * (1 - chance);
      const weight = (shares[i] ?? 0) * curve;
      weights[i] = weight;
      working[i] = (logits[i] ?? 0) + ((y[i] ?? 0) - chance) / curve;
      total += weight;
      centre += weight * (working[i] ?? 0);
    }
    centre /= total;
    const means = Float64Array.from(columns, (column) => {
      let sum = 0;
      for (let i = 0; i < column.length; i++) sum += (weights[i] ?? 0) * (column[i] ?? 0);
      return sum / total;
    });
    for (let i = 0; i < working.length; i++) working[i] = (working[i] ?? 0) - centre;
    const quadratic = quadraticOf(columns, weights, working, means);
    const before = b.slice();
    const gradient = quadratic.linear.slice();
    b.forEach((slope, j) => {
      if (slope === 0) return;
      const column = quadratic.column(j);
      for (let k = 0; k < gradient.length; k++) gradient[k] = at(gradient, k) - slope * at(column, k);
    });
    descend(quadratic, b, gradient, l1, l2);
    const next = centre - b.reduce((sum, slope, j) => sum + slope * at(means, j), 0);
    const change = b.reduce(
      (most, slope, j) => Math.max(most, Math.abs(slope - at(before, j))),
      Math.abs(next - origin),
    );
    origin = next;
    if (change < SETTLED * (1 + Math.abs(next))) break;
  }
  return origin;
}

function logitsOf(columns: readonly Float64Array[], b: Float64Array, intercept: number): Float64Array {
  const out = new Float64Array(columns[0]?.length ?? 0).fill(intercept);
  columns.forEach((column, c) => {
    const slope = b[c] ?? 0;
    if (slope !== 0) for (let i = 0; i < out.length; i++) out[i] = (out[i] ?? 0) + slope * (column[i] ?? 0);
  });
  return out;
}

const chanceOf = (logit: number): number => Math.min(1 - EDGE, Math.max(EDGE, 1 / (1 + Math.exp(-logit))));

/** Per row. */
function devianceOf(y: Float64Array, shares: Float64Array, chance: (row: number) => number): number {
  let sum = 0;
  for (let i = 0; i < y.length; i++) {
    const p = chance(i);
    sum -= 2 * (shares[i] ?? 0) * Math.log(y[i] === 1 ? p : 1 - p);
  }
  return sum;
}
