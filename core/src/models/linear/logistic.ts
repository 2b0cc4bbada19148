import { logitsForm } from './forms.js';
import { logisticStarter } from './starter.js';
import { SieveError } from '../../foundation/errors.js';
import {
  chiSquareAbove,
  normalHalfWidth,
  normalTwoSided,
} from '../../foundation/statistics/distributions.js';
import { leastSquares } from '../../foundation/statistics/least-squares.js';
import { at } from '../../foundation/numbers.js';
import { INTERCEPT, type Coefficient } from '../contract/description.js';
import { absent } from '../contract/absent.js';
import { modelFamily } from '../contract/family.js';
import { classWeights, type ClassTarget } from '../prepared/target.js';
import { eliminate, ELIMINATION, eliminationSentence, type Fit } from './elimination.js';
import { newton, type NewtonFit } from './newton.js';
import { standardise, unscaled, type Standardised } from './standardised.js';

const LEVEL = 0.95;

interface LogisticFit extends Fit {
  readonly kept: readonly number[];
  readonly newton: NewtonFit;
  /** Of the kept columns. */
  readonly scale: Pick<Standardised, 'means' | 'deviations'>;
}

export const logisticRegression = modelFamily({
  key: 'logistic',
  title: 'logistic regression',
  about:
    'Maximum likelihood by Newton’s method (iteratively reweighted least squares), of two classes or, with the first class to compare with, of more. Standard errors, z, p, odds ratios and 95 % intervals by Wald. Where features separate the classes perfectly the estimates are infinite: this is shown, and no standard error is given. AIC and BIC count coefficients; rows without weight are not counted.',
  source: 'statsmodels, Logit and MNLogit; R, glm',
  tasks: ['binary', 'multiclass'],
  hyperparameters: [],
  forms: [logitsForm],
  starter: logisticStarter,
  parameters: ELIMINATION,
  sentence: eliminationSentence,
  fit: (training, values) => {
    const { target, weights } = training;
    if (target.kind === 'numbers') throw new SieveError('model', 'A logistic regression predicts classes.');
    const design = training.design();
    const { order, codes } = compared(target, weights);
    const all = standardise(design, weights);
    const first = codes.map((code) => (code > 0 ? 1 : 0));
    const refit = (columns: readonly number[]): LogisticFit => {
      const numbers = Float64Array.from(first);
      const independent = leastSquares(
        columns.map((c) => at(all.columns, c)),
        numbers,
        weights,
      ).kept.map((k) => at(columns, k));
      return fitOf(independent, all, codes, order.length, weights);
    };
    if (order.length < 2)
      throw new SieveError(
        'one-class',
        `All training rows are of one class, ${at(target.labels, at(order, 0))}: there is nothing to distinguish.`,
      );
    const featureOf = design.terms.map(({ feature }) => feature);
    const { fit, removed } = eliminate(featureOf, refit, values.eliminate, values.limit);
    const nameOf = (c: number) => at(design.terms, c).name;
    const dropped = new Set(removed.map(({ feature }) => feature));
    const lost = design.terms.filter(({ feature }, c) => !fit.kept.includes(c) && !dropped.has(feature));
    const rows = weights ? weights.reduce((count, weight) => count + (weight > 0 ? 1 : 0), 0) : codes.length;
    const nullDeviance = newton([], codes, order.length, weights).deviance;
    return {
      state: stateOf(fit, target, order, design.terms.length),
      description: {
        coefficients: inference(fit, nameOf, order.map((label) => at(target.labels, label)).slice(1)),
        removed,
        figures: {
          log_likelihood: -fit.newton.deviance / 2,
          null_log_likelihood: -nullDeviance / 2,
          deviance: fit.newton.deviance,
          null_deviance: nullDeviance,
          aic: fit.aic,
          bic: fit.aic + (order.length - 1) * (fit.kept.length + 1) * (Math.log(rows) - 2),
        },
      },
      warnings: [
        ...warningsOf(
          fit,
          lost.map(({ name }) => name),
        ),
        ...absent(training),
      ],
    };
  },
});

/** The classes that occur, in the order in which they are compared: of two the negative one comes first. */
function compared(target: ClassTarget, weights: Float64Array | null) {
  const present = Array.from(classWeights(target, weights)).flatMap((sum, label) => (sum > 0 ? [label] : []));
  const order =
    target.positive === null
      ? present
      : present.sort((a, b) => Number(a === target.positive) - Number(b === target.positive));
  const placeOf = new Map(order.map((label, place) => [label, place]));
  return { order, codes: target.codes.map((code) => placeOf.get(code) ?? 0) };
}

function fitOf(
  kept: readonly number[],
  all: Standardised,
  codes: Int32Array,
  classes: number,
  weights: Float64Array | null,
): LogisticFit {
  const fitted = newton(
    kept.map((c) => at(all.columns, c)),
    codes,
    classes,
    weights,
  );
  const scale = {
    means: kept.map((c) => at(all.means, c)),
    deviations: kept.map((c) => at(all.deviations, c)),
  };
  const width = kept.length + 1;
  const { covariance, estimates } = fitted;
  const slopes = estimates.flatMap((_, k) => kept.map((_, c) => k * width + c + 1));
  return {
    newton: fitted,
    scale,
    kept,
    columnOf: estimates.flatMap(() => kept),
    estimates: estimates.flatMap((own) => Array.from(own.slice(1))),
    covariance: slopes.map((a) =>
      slopes.map((b) => (covariance ? at(at(covariance, a), b) : a === b ? 1 : 0)),
    ),
    aic: fitted.deviance + 2 * (classes - 1) * width,
    chance: (wald, q) => (covariance ? chiSquareAbove(wald, q) : 0),
  };
}

function stateOf(
  { newton: { estimates }, scale, kept }: LogisticFit,
  { labels }: ClassTarget,
  order: readonly number[],
  width: number,
) {
  // A class that no row was of gets no probability at all.
  const intercepts = new Array<number>(labels.length).fill(Number.NEGATIVE_INFINITY);
  const slopes = labels.map(() => new Array<number>(width).fill(0));
  order.forEach((label, place) => {
    const own = place === 0 ? null : at(estimates, place - 1);
    const { intercept, slopes: mine } = unscaled(own?.[0] ?? 0, own?.slice(1) ?? [], scale);
    intercepts[label] = intercept;
    kept.forEach((c, k) => {
      at(slopes, label)[c] = at(mine, k);
    });
  });
  return { form: 'logits' as const, intercepts: intercepts.map((value) => Math.max(value, -1e300)), slopes };
}

function inference(
  { newton: { estimates, covariance }, scale, kept }: LogisticFit,
  nameOf: (column: number) => string,
  labels: readonly string[],
): Coefficient[] {
  const half = normalHalfWidth(LEVEL);
  const width = kept.length + 1;
  return estimates.flatMap((own, k) => {
    const label = labels.length > 1 ? at(labels, k) : null;
    const { intercept, slopes } = unscaled(at(own, 0), own.slice(1), scale);
    const seOf = (weights: readonly number[]) =>
      covariance &&
      Math.sqrt(
        weights.reduce(
          (sum, a, i) =>
            sum +
            weights.reduce((so, b, j) => so + a * b * at(at(covariance, k * width + i), k * width + j), 0),
          0,
        ),
      );
    const row = (term: string, estimate: number, se: number | null): Coefficient => ({
      term,
      label,
      estimate,
      se,
      statistic: se && estimate / se,
      p: se && normalTwoSided(estimate / se),
      low: se && estimate - half * se,
      high: se && estimate + half * se,
      oddsRatio: Math.exp(estimate),
    });
    const unit = (place: number) =>
      Array.from({ length: width }, (_, i) => (i === place ? 1 / at(scale.deviations, place - 1) : 0));
    return [
      row(INTERCEPT, intercept, seOf([1, ...scale.means.map((mean, c) => -mean / at(scale.deviations, c))])),
      ...kept.map((c, i) => row(nameOf(c), at(slopes, i), seOf(unit(i + 1)))),
    ];
  });
}

function warningsOf({ newton: { separated } }: LogisticFit, lost: readonly string[]): string[] {
  return [
    ...(separated
      ? [
          'The features separate the classes, or some rows of them, perfectly (separation): the maximum-likelihood estimates are infinite. Those shown are where the deviance has settled; predictions are at its limit and can be used, coefficients cannot.',
        ]
      : []),
    ...(lost.length > 0
      ? [`${lost.join(', ')}: left out, because they do not vary or follow from other terms.`]
      : []),
  ];
}
