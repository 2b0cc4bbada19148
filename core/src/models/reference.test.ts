import { isOf } from './contract/state.js';
import { treeForm } from './tree/form.js';
import { describe, expect, it } from '@jest/globals';
import { distance, fit, modelCase, type ModelCase } from '../../test/models.js';
import { at, indices } from '../foundation/numbers.js';
import type { Coefficient } from './contract/description.js';
import { judgedBy, predictRows } from './fitted.js';
import { targetOf } from './prepared/target.js';

interface Inference {
  terms: string[];
  estimate: number[];
  se: number[];
  t?: number[];
  z?: number[];
  p: number[];
  low?: number[];
  high?: number[];
}

/** Compares every figure of every term; `largest` is how far the worst is off. */
function worst(coefficients: readonly Coefficient[], expected: Inference): number {
  let most = 0;
  expected.terms.forEach((term, i) => {
    const own = coefficients.find((one) => one.term === term);
    const pairs: [number | null | undefined, number | undefined][] = [
      [own?.estimate, expected.estimate[i]],
      [own?.se, expected.se[i]],
      [own?.statistic, (expected.t ?? expected.z)?.[i]],
      [own?.p, expected.p[i]],
      [own?.low, expected.low?.[i]],
      [own?.high, expected.high?.[i]],
    ];
    for (const [value, should] of pairs)
      if (should !== undefined) {
        const off = distance(value, should);
        most = Number.isNaN(off) ? Infinity : Math.max(most, off);
      }
  });
  return most;
}

describe('against statsmodels and R (sources in test/reference)', () => {
  it.each([
    ['ols-longley', 'TOTEMP'],
    ['ols-diabetes', 'target'],
  ])('%s: estimates, errors, t, p, intervals and figures of the fit', (name, target) => {
    const { table, expected, tolerance } = modelCase(name) as ModelCase<Inference & Record<string, number>>;
    const { description } = fit(table, target, 'regression', 'linear');
    expect(worst(description.coefficients ?? [], expected)).toBeLessThan(tolerance);
    for (const key of ['r2', 'adjusted_r2', 'f', 'f_p', 'sigma', 'aic', 'bic'])
      expect(distance(description.figures?.[key], at([expected[key] ?? NaN], 0))).toBeLessThan(tolerance);
  });

  it.each([
    ['logistic', 'target'],
    ['glm-mtcars', 'am'],
  ])('%s: estimates, errors, z, p, intervals and likelihoods', (name, target) => {
    const { table, expected, tolerance } = modelCase(name) as ModelCase<Inference & Record<string, number>>;
    const { description } = fit(table, target, 'binary', 'logistic');
    expect(worst(description.coefficients ?? [], expected)).toBeLessThan(tolerance);
    for (const key of ['log_likelihood', 'null_log_likelihood', 'deviance', 'null_deviance', 'aic'])
      if (expected[key] !== undefined)
        expect(distance(description.figures?.[key], expected[key])).toBeLessThan(tolerance);
  });
});

interface Path {
  alpha: number;
  lambda_max: number;
  lambdas: number[];
  nonzero: number[];
  deviance_ratio?: number[];
  terms: string[];
  intercepts: number[];
  estimates_first: number[];
  estimates_second: number[];
  estimates_third: number[];
  estimates_fourth?: number[];
}

describe('paths of penalties against R’s glmnet', () => {
  it.each([
    ['path-gaussian-alpha1', 'regression', 'lasso'],
    ['path-gaussian-alpha0.5', 'regression', 'elastic-net'],
    ['path-gaussian-alpha0', 'regression', 'ridge'],
    ['path-binomial', 'binary', 'lasso'],
  ] as const)('%s: penalties, coefficients, how many are not 0, deviance', (name, task, kind) => {
    const { table, expected, tolerance } = modelCase(name) as ModelCase<Path>;
    const { description } = fit(table, 'target', task, kind);
    const points = description.path?.points ?? [];
    expect(distance(points[0]?.penalty, expected.lambda_max)).toBeLessThan(1e-6);
    const estimates = [
      expected.estimates_first,
      expected.estimates_second,
      expected.estimates_third,
      expected.estimates_fourth ?? [],
    ];
    expected.lambdas.forEach((lambda, i) => {
      const point = points.find(({ penalty }) => Math.abs(penalty / lambda - 1) < 1e-6);
      expect(point?.nonzero).toBe(expected.nonzero[i]);
      expect(distance(point?.intercept, at(expected.intercepts, i))).toBeLessThan(tolerance);
      at(estimates, i).forEach((estimate, c) =>
        expect(distance(point?.coefficients[c], estimate)).toBeLessThan(tolerance),
      );
      const ratio = expected.deviance_ratio?.[i];
      if (ratio !== undefined) expect(distance(point?.devianceRatio, ratio)).toBeLessThan(1e-6);
    });
  });

  it('elastic net at one penalty, on the target as it is (scikit-learn, ElasticNet)', () => {
    const { table, expected, tolerance } = modelCase('elastic-net-standardised') as ModelCase<{
      alpha: number;
      l1_ratio: number;
      terms: string[];
      estimate: number[];
    }>;
    const values = { penalty: expected.alpha, mixing: expected.l1_ratio, units: 'as-is' };
    const { description } = fit(table, 'target', 'regression', 'elastic-net', values);
    expected.terms.forEach((term, i) => {
      const column = table.columns.find(({ name }) => name === term);
      const cells = column?.kind === 'number' ? column.values : new Float64Array();
      const mean = cells.reduce((a, b) => a + b, 0) / cells.length;
      const deviation = Math.sqrt(cells.reduce((sum, x) => sum + (x - mean) ** 2, 0) / cells.length);
      const own = description.coefficients?.find((one) => one.term === term)?.estimate ?? NaN;
      expect(distance(own * deviation, at(expected.estimate, i))).toBeLessThan(tolerance);
    });
  });
});

describe('against scikit-learn', () => {
  it.each(['gaussian', 'bernoulli', 'multinomial'])('naive Bayes, %s: every probability', (kind) => {
    const { table, expected, tolerance } = modelCase(`naive-bayes-${kind}`) as ModelCase<{
      labels: string[];
      probabilities: number[][];
    }>;
    const fitted = fit(table, 'target', 'multiclass', 'naive-bayes', { kind });
    expect(fitted.labels).toEqual(expected.labels);
    const predicted = predictRows(fitted, table, indices(table.rowCount));
    expected.probabilities.forEach((row, i) =>
      row.forEach((p, label) => expect(distance(predicted[label]?.[i], p)).toBeLessThan(tolerance)),
    );
  });

  it('trees of wine: root, leaves and training accuracy by criterion, depth and rows in a leaf', () => {
    const { table, expected } = modelCase('tree-wine') as ModelCase<{
      runs: {
        criterion: string;
        depth: number | null;
        rows_per_leaf: number;
        train_accuracy: number;
        leaves: number;
        root: string;
        threshold: number;
      }[];
    }>;
    const target = targetOf(table, { target: 'target', task: 'multiclass', positive: null });
    expect(expected.runs).toHaveLength(20);
    for (const run of expected.runs) {
      const { criterion, rows_per_leaf } = run;
      const values = { criterion, rows_per_leaf, depth: run.depth ?? 60 };
      const fitted = fit(table, 'target', 'multiclass', 'tree', values);
      const judged = judgedBy(target, predictRows(fitted, table, indices(table.rowCount)));
      const right =
        judged.kind === 'labels'
          ? judged.data.truth.reduce((n, code, i) => n + (code === judged.data.predicted[i] ? 1 : 0), 0)
          : 0;
      expect(right / table.rowCount).toBeCloseTo(run.train_accuracy, 12);
      const { state } = fitted;
      const root = isOf(treeForm, state) ? at(state.nodes, 0).split : null;
      expect(root?.name).toBe(run.root);
      // scikit-learn keeps thresholds in 32 bits.
      expect(root?.kind === 'threshold' ? root.threshold : NaN).toBeCloseTo(run.threshold, 5);
      // Equally good splits may change leaves by a few.
      expect(Math.abs((fitted.description.figures?.['leaves'] ?? NaN) - run.leaves)).toBeLessThanOrEqual(2);
    }
  });

  it('trees of diabetes: training error by depth', () => {
    const { table, expected, tolerance } = modelCase('tree-diabetes') as ModelCase<{
      runs: { depth: number; train_rmse: number }[];
    }>;
    for (const { depth, train_rmse } of expected.runs) {
      const fitted = fit(table, 'target', 'regression', 'tree', { depth });
      const predicted = at(predictRows(fitted, table, indices(table.rowCount)), 0);
      const target = targetOf(table, { target: 'target', task: 'regression', positive: null });
      const truth = target.kind === 'numbers' ? target.values : new Float64Array();
      const mse = truth.reduce((sum, y, i) => sum + (y - at(predicted, i)) ** 2, 0) / truth.length;
      expect(distance(Math.sqrt(mse), train_rmse)).toBeLessThan(tolerance);
    }
  });
});
