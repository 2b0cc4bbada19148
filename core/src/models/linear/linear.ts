import { linearForm } from './forms.js';
import { linearStarter } from './starter.js';
import { fAbove, studentHalfWidth, studentTwoSided } from '../../foundation/statistics/distributions.js';
import { leastSquares, type LeastSquares } from '../../foundation/statistics/least-squares.js';
import { at } from '../../foundation/numbers.js';
import { INTERCEPT, type Coefficient } from '../contract/description.js';
import { modelFamily } from '../contract/family.js';
import { asNumbers } from '../prepared/target.js';
import { eliminate, ELIMINATION, eliminationSentence, type Fit } from './elimination.js';

const LEVEL = 0.95;

interface LinearFit extends Fit {
  /** Columns of the design that were given, ascending. */
  readonly columns: readonly number[];
  readonly kept: readonly number[];
  readonly solution: LeastSquares;
  readonly df: number;
}

export const linearRegression = modelFamily({
  key: 'linear',
  title: 'linear regression',
  about:
    'Least squares by Householder reflections. Standard errors, t, p and 95 % intervals suppose errors of equal spread. Of two classes the positive one counts 1 and the other 0: what comes out is read as its probability, cut at 0 and 1, which is a poor probability and a usable class when rounded. Features may be dropped backwards by p or by Akaike’s criterion. AIC and BIC count coefficients, not the error variance (as statsmodels; R’s AIC is larger by 2, its BIC by log n); rows without weight are not counted.',
  source: 'statsmodels, OLS and WLS; NIST StRD, linear regression',
  tasks: ['regression', 'binary'],
  hyperparameters: [],
  forms: [linearForm],
  starter: linearStarter,
  parameters: ELIMINATION,
  sentence: eliminationSentence,
  fit: (training, values) => {
    const design = training.design();
    const y = asNumbers(training.target);
    const { weights } = training;
    const n = weights ? y.reduce((count, _, i) => count + (at(weights, i) > 0 ? 1 : 0), 0) : y.length;
    const refit = (columns: readonly number[]): LinearFit => {
      const solution = leastSquares(
        columns.map((c) => at(design.columns, c)),
        y,
        weights,
      );
      const df = n - solution.kept.length - 1;
      const variance = df > 0 ? solution.rest / df : NaN;
      const inverse = solution.inverse();
      const kept = solution.kept.map((k) => at(columns, k));
      return {
        columns,
        solution,
        df,
        kept,
        columnOf: kept,
        estimates: solution.kept.map((k) => at(solution.slopes, k)),
        covariance: inverse.slice(1).map((row) => Array.from(row.slice(1), (value) => value * variance)),
        aic: 2 * (solution.kept.length + 1) - 2 * logLikelihood(solution.rest, n, weights),
        chance: (wald, q) => (df > 0 ? fAbove(wald / q, q, df) : 0),
      };
    };
    const featureOf = design.terms.map(({ feature }) => feature);
    const { fit, removed } = eliminate(featureOf, refit, values.eliminate, values.limit);
    const slopes = new Array<number>(design.terms.length).fill(0);
    fit.kept.forEach((c, k) => {
      slopes[c] = at(fit.estimates, k);
    });
    const nameOf = (c: number) => at(design.terms, c).name;
    const lost = fit.columns.filter((c) => !fit.kept.includes(c)).map(nameOf);
    return {
      state: { form: 'linear', intercept: fit.solution.intercept, slopes },
      description: {
        coefficients: inference(fit, nameOf),
        removed,
        figures: figuresOf(fit, n, weights),
      },
      warnings: [
        ...(lost.length > 0
          ? [
              `${lost.join(', ')}: no coefficient of ${lost.length === 1 ? 'its' : 'their'} own, because ${lost.length === 1 ? 'it does' : 'they do'} not vary or other terms make ${lost.length === 1 ? 'it' : 'them'} up.`,
            ]
          : []),
        ...(fit.df <= 0
          ? [
              `As many coefficients as rows (${y.length}): the fit is exact, and its errors cannot be estimated.`,
            ]
          : []),
      ],
    };
  },
});

function inference(
  { columns, solution, kept, df }: LinearFit,
  nameOf: (column: number) => string,
): Coefficient[] {
  const inverse = solution.inverse();
  const variance = df > 0 ? solution.rest / df : NaN;
  const half = df > 0 ? studentHalfWidth(LEVEL, df) : NaN;
  const row = (term: string, estimate: number, k: number): Coefficient => {
    const se = Math.sqrt(variance * at(at(inverse, k), k));
    // A fit without any error left but rounding has estimates and no tests.
    const known = df > 0 && se > 0 && !isExact(solution);
    return {
      term,
      label: null,
      estimate,
      se: known ? se : null,
      statistic: known ? estimate / se : null,
      p: known ? studentTwoSided(estimate / se, df) : null,
      low: known ? estimate - half * se : null,
      high: known ? estimate + half * se : null,
      oddsRatio: null,
    };
  };
  const missing = { label: null, estimate: null, se: null, statistic: null, p: null };
  return [
    row(INTERCEPT, solution.intercept, 0),
    ...columns.map((c, own) => {
      const k = kept.indexOf(c);
      return k < 0
        ? { term: nameOf(c), ...missing, low: null, high: null, oddsRatio: null }
        : row(nameOf(c), at(solution.slopes, own), k + 1);
    }),
  ];
}

/** Share of the variation that rounding alone leaves. */
const ROUNDING = 1e-14;

const isExact = ({ r2, rest }: LeastSquares): boolean => rest === 0 || 1 - r2 <= ROUNDING;

/** Of normal errors, with their variance as it is most likely (statsmodels, OLS.loglike and WLS.loglike). */
function logLikelihood(rest: number, n: number, weights: Float64Array | null): number {
  const logs = weights ? weights.reduce((sum, weight) => sum + (weight > 0 ? Math.log(weight) : 0), 0) : 0;
  return (-n / 2) * (Math.log((2 * Math.PI * rest) / n) + 1) + logs / 2;
}

function figuresOf(
  { solution, df, aic }: LinearFit,
  n: number,
  weights: Float64Array | null,
): Record<string, number> {
  const p = solution.kept.length;
  const { r2, rest } = solution;
  const f = r2 / p / ((1 - r2) / df);
  const figures = {
    r2,
    adjusted_r2: 1 - ((1 - r2) * (df + p)) / df,
    f,
    f_p: fAbove(f, p, df),
    sigma: Math.sqrt(rest / df),
    aic,
    bic: aic + (p + 1) * (Math.log(n) - 2),
    log_likelihood: logLikelihood(rest, n, weights),
    degrees_of_freedom: df,
  };
  return Object.fromEntries(Object.entries(figures).filter(([, value]) => Number.isFinite(value)));
}
