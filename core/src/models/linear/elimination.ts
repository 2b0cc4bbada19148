import { at } from '../../foundation/numbers.js';
import type { Removed } from '../contract/description.js';

/** Estimates of a fit as an elimination looks at them. */
export interface Fit {
  /** The column of the design that each estimate belongs to; one that others make up has none. */
  readonly columnOf: readonly number[];
  /** Without the intercepts. */
  readonly estimates: readonly number[];
  /** Of the estimates. */
  readonly covariance: readonly (readonly number[])[];
  readonly aic: number;
  /** Chance that columns which say nothing give a Wald statistic as large; `q` is how many they are. */
  readonly chance: (wald: number, q: number) => number;
}

const ELIMINATIONS = [
  { value: 'none', text: 'all terms kept' },
  { value: 'p', text: 'features without weight dropped one after another' },
  { value: 'aic', text: 'features dropped as long as Akaike’s criterion falls' },
] as const;

/** Common practice. */
const USUAL_P = 0.05;

/** The settings of an elimination, as every regression has them. */
export const ELIMINATION = {
  eliminate: { type: 'choice', label: 'whether features are dropped', choices: ELIMINATIONS },
  limit: { type: 'number', label: 'the largest p that stays', min: 0, max: 1, start: USUAL_P },
} as const;

export const eliminationSentence = ({ eliminate }: { readonly eliminate: string }): string =>
  eliminate === 'p' ? '{eliminate}, down to p of {limit}' : '{eliminate}';

/**
 * Backward elimination: as long as one is to go, a feature is dropped and the rest fitted again. By p it is the feature
 * with the largest p, of the Wald statistic of all its columns (the F statistic of a linear regression, or the square of z
 * for one column of a logistic one). By Akaike's criterion every feature is tried, and the one goes without which the
 * criterion is lowest (R, step, backward).
 *
 * @param featureOf the feature of each column
 * @param refit fits the given columns
 */
export function eliminate<F extends Fit>(
  featureOf: readonly string[],
  refit: (columns: readonly number[]) => F,
  by: (typeof ELIMINATIONS)[number]['value'],
  limit: number,
): { readonly fit: F; readonly removed: Removed[] } {
  let columns = featureOf.map((_, c) => c);
  let fit = refit(columns);
  const removed: Removed[] = [];
  const without = (feature: string) => columns.filter((c) => at(featureOf, c) !== feature);
  while (by !== 'none') {
    const terms = termsOf(fit, featureOf).map((term) => ({
      ...term,
      fit: by === 'aic' ? refit(without(term.feature)) : null,
    }));
    const [first, ...others] = terms;
    if (!first) break;
    const weakest = others.reduce((so, one) => {
      const isWeaker = one.fit && so.fit ? one.fit.aic < so.fit.aic : one.p > so.p;
      return isWeaker ? one : so;
    }, first);
    if (by === 'p' && weakest.p <= limit) break;
    const next = weakest.fit ?? refit(without(weakest.feature));
    if (by === 'aic' && next.aic >= fit.aic) break;
    const { feature, p } = weakest;
    removed.push({ feature, p, aicWith: fit.aic, aicWithout: next.aic });
    columns = without(feature);
    fit = next;
  }
  return { fit, removed };
}

/** The features of a fit, with the p of each. */
function termsOf(
  { columnOf, estimates, covariance, chance }: Fit,
  featureOf: readonly string[],
): { readonly feature: string; readonly p: number }[] {
  return [...new Set(columnOf.map((c) => at(featureOf, c)))].map((feature) => {
    const own = columnOf.flatMap((c, k) => (at(featureOf, c) === feature ? [k] : []));
    const block = own.map((a) => own.map((b) => at(at(covariance, a), b)));
    const wald = quadratic(
      block,
      own.map((a) => at(estimates, a)),
    );
    return { feature, p: chance(wald, own.length) };
  });
}

/** bᵀ A⁻¹ b of a positive definite matrix, by Cholesky's factor. */
function quadratic(matrix: readonly (readonly number[])[], vector: readonly number[]): number {
  const factor = cholesky(matrix);
  if (!factor) return 0;
  let sum = 0;
  const solved: number[] = [];
  factor.forEach((row, i) => {
    const value = (at(vector, i) - solved.reduce((so, s, j) => so + at(row, j) * s, 0)) / at(row, i);
    solved.push(value);
    sum += value * value;
  });
  return sum;
}

/** The lower triangle L with A = L Lᵀ; null where A is not positive definite (Golub and Van Loan, algorithm 4.2.1). */
export function cholesky(matrix: readonly ArrayLike<number>[]): Float64Array[] | null {
  const factor = matrix.map(() => new Float64Array(matrix.length));
  for (let i = 0; i < matrix.length; i++) {
    const row = at(factor, i);
    for (let j = 0; j <= i; j++) {
      const other = at(factor, j);
      let sum = at(at(matrix, i), j);
      for (let k = 0; k < j; k++) sum -= (row[k] ?? 0) * (other[k] ?? 0);
      if (i === j && !(sum > 0)) return null;
      row[j] = i === j ? Math.sqrt(sum) : sum / (other[j] ?? 1);
    }
  }
  return factor;
}
