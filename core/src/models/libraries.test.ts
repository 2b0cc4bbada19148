import { isOf } from './contract/state.js';
import { treeForm } from './tree/form.js';
import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, testFile } from '../../test/files.js';
import { distance, fit, modelCase, request } from '../../test/models.js';
import { at, indices } from '../foundation/numbers.js';
import { codedColumn } from '../data/table/recode.js';
import { columnNamed, type Table } from '../data/table/table.js';
import { fitModel, judgedBy, predictRows, type Fitted } from './fitted.js';
import { targetOf } from './prepared/target.js';
import { treeImportances } from './tree/importance.js';

/** Computed by test/reference/models.py. */
const expected = JSON.parse(new TextDecoder().decode(testFile('reference/models.json'))) as {
  nearest: { weights: string; neighbours: number; classes: number[][]; numbers: number[] }[];
  kernel: number[][];
  categories: { codes: number[][]; probabilities: number[][] };
  pruning: {
    runs: { alpha: number; leaves: number; accuracy: number }[];
    numbers: { alpha: number; leaves: number; mse: number }[];
  };
  importances: Record<string, number>;
  wls: { estimate: number[]; se: number[]; r2: number; log_likelihood: number; aic: number };
  weighted_logistic: { estimate: number[]; se: number[]; deviance: number };
  multinomial: { columns: string[]; estimate: number[][]; se: number[][]; log_likelihood: number };
  weighted_tree: { leaves: number; predictions: number[] };
};

const all = (table: Table) => indices(table.rowCount);

const third = (table: Table) => all(table).filter((row) => row % 3 === 0);

const rest = (table: Table) => all(table).filter((row) => row % 3 !== 0);

const predicted = (fitted: Fitted, table: Table) => predictRows(fitted, table, all(table));

const wine = (): Table => modelCase('tree-wine').table;

const worst = (pairs: readonly (readonly [number | null | undefined, number])[]): number =>
  pairs.reduce((most, [value, should]) => {
    const off = distance(value, should);
    return Number.isNaN(off) ? Infinity : Math.max(most, off);
  }, 0);

function valuesOf(table: Table, name: string): Float64Array {
  const column = columnNamed(table, name);
  return column.kind === 'number' ? column.values : new Float64Array();
}

describe('against scikit-learn and statsmodels (test/reference/models.py)', () => {
  it.each(expected.nearest)(
    '$neighbours nearest neighbours, $weights',
    ({ weights, neighbours, classes, numbers }) => {
      const values = { neighbours, weights };
      const flowers = iris();
      const ofClasses = fitModel(
        request(flowers, 'target', 'multiclass', 'nearest', values, { rows: rest(flowers) }),
      );
      const shares = predictRows(ofClasses, flowers, third(flowers));
      expect(
        worst(classes.flatMap((row, i) => row.map((p, label) => [shares[label]?.[i], p] as const))),
      ).toBeLessThan(1e-9);
      const people = diabetes();
      const ofNumbers = fitModel(
        request(people, 'target', 'regression', 'nearest', values, { rows: rest(people) }),
      );
      const [answers] = predictRows(ofNumbers, people, third(people));
      expect(worst(numbers.map((value, i) => [answers?.[i], value] as const))).toBeLessThan(1e-9);
    },
  );

  it('naive Bayes of kernels with R’s bandwidth', () => {
    const flowers = iris();
    const shares = predicted(
      fit(flowers, 'target', 'multiclass', 'naive-bayes', { kind: 'kernel' }),
      flowers,
    );
    const pairs = expected.kernel.flatMap((row, i) =>
      row.map((p, label) => [shares[label]?.[i], p] as const),
    );
    expect(worst(pairs)).toBeLessThan(1e-9);
  });

  it('naive Bayes of categories, corrected by Laplace', () => {
    const flowers = iris();
    const columns = [0, 1, 2, 3].map((j) =>
      codedColumn(
        `c${j}`,
        ['0', '1', '2'],
        Int32Array.from(expected.categories.codes, (row) => at(row, j)),
        'category',
      ),
    );
    const table = { rowCount: 150, columns: [...columns, columnNamed(flowers, 'target')] };
    const shares = predicted(fit(table, 'target', 'multiclass', 'naive-bayes'), table);
    const pairs = expected.categories.probabilities.flatMap((row, i) =>
      row.map((p, label) => [shares[label]?.[i], p] as const),
    );
    expect(worst(pairs)).toBeLessThan(1e-12);
  });

  it.each(expected.pruning.runs)('a tree of wine pruned at $alpha', ({ alpha, leaves, accuracy }) => {
    const table = wine();
    const fitted = fit(table, 'target', 'multiclass', 'tree', { pruning: alpha });
    expect(fitted.description.figures?.['leaves']).toBe(leaves);
    const target = targetOf(table, { target: 'target', task: 'multiclass', positive: null });
    const judged = judgedBy(target, predicted(fitted, table));
    const right = Array.from(judged.data.truth).filter((code, i) => code === judged.data.predicted[i]).length;
    expect(right / table.rowCount).toBeCloseTo(accuracy, 12);
  });

  it.each(expected.pruning.numbers)('a tree of diabetes pruned at $alpha', ({ alpha, leaves, mse }) => {
    const table = diabetes();
    const fitted = fit(table, 'target', 'regression', 'tree', { pruning: alpha });
    const y = valuesOf(table, 'target');
    const [own] = predicted(fitted, table);
    const found = y.reduce((sum, value, i) => sum + (value - (own?.[i] ?? NaN)) ** 2, 0) / y.length;
    expect(Math.abs((fitted.description.figures?.['leaves'] ?? NaN) - leaves)).toBeLessThanOrEqual(2);
    expect(distance(found, mse)).toBeLessThan(0.01);
  });

  it('impurity importances of a tree', () => {
    const { state } = fit(wine(), 'target', 'multiclass', 'tree', { depth: 3 });
    const own = isOf(treeForm, state) ? treeImportances(state) : [];
    expect(own.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 12);
    // Equally good splits further down may go by another column.
    expect(own[0]?.feature).toBe('proline');
    expect(own[0]?.share).toBeCloseTo(expected.importances['proline'] ?? NaN, 6);
  });

  it('weighted least squares', () => {
    const table = diabetes();
    const weights = Float64Array.from({ length: table.rowCount }, (_, i) => 1 + (i % 4));
    const { description } = fit(table, 'target', 'regression', 'linear', {}, { weights });
    const { estimate, se, r2, log_likelihood, aic } = expected.wls;
    const own = description.coefficients ?? [];
    expect(worst(estimate.map((value, i) => [own[i]?.estimate, value] as const))).toBeLessThan(1e-8);
    expect(worst(se.map((value, i) => [own[i]?.se, value] as const))).toBeLessThan(1e-8);
    expect(
      worst([
        [description.figures?.['r2'], r2],
        [description.figures?.['log_likelihood'], log_likelihood],
        [description.figures?.['aic'], aic],
      ]),
    ).toBeLessThan(1e-9);
  });

  it('weighted logistic regression', () => {
    const flowers = iris();
    const target = columnNamed(flowers, 'target');
    const isLast = Int32Array.from({ length: 150 }, (_, i) =>
      'codes' in target && target.codes[i] === 2 ? 1 : 0,
    );
    const table = {
      rowCount: 150,
      columns: [...flowers.columns.slice(0, 2), codedColumn('last', ['no', 'yes'], isLast, 'category')],
    };
    const weights = Float64Array.from({ length: 150 }, (_, i) => 1 + (i % 3));
    const { description } = fit(table, 'last', 'binary', 'logistic', {}, { weights });
    const { estimate, se, deviance } = expected.weighted_logistic;
    const own = description.coefficients ?? [];
    expect(worst(estimate.map((value, i) => [own[i]?.estimate, value] as const))).toBeLessThan(1e-6);
    expect(worst(se.map((value, i) => [own[i]?.se, value] as const))).toBeLessThan(1e-6);
    expect(distance(description.figures?.['deviance'], deviance)).toBeLessThan(1e-9);
  });

  it('multinomial logistic regression, the first class to compare with', () => {
    const table = wine();
    const { columns, estimate, se, log_likelihood } = expected.multinomial;
    const { description } = fit(table, 'target', 'multiclass', 'logistic', {}, { features: columns });
    const own = description.coefficients ?? [];
    expect(own).toHaveLength(8);
    expect(worst(estimate.flat().map((value, i) => [own[i]?.estimate, value] as const))).toBeLessThan(1e-5);
    expect(worst(se.flat().map((value, i) => [own[i]?.se, value] as const))).toBeLessThan(1e-5);
    expect(distance(description.figures?.['log_likelihood'], log_likelihood)).toBeLessThan(1e-8);
  });

  it('a regression tree under weights', () => {
    const table = diabetes();
    const weights = Float64Array.from({ length: table.rowCount }, (_, i) => 1 + (i % 4));
    const fitted = fit(table, 'target', 'regression', 'tree', { depth: 3 }, { weights });
    const [own] = predicted(fitted, table);
    expect(fitted.description.figures?.['leaves']).toBe(expected.weighted_tree.leaves);
    expect(
      worst(expected.weighted_tree.predictions.map((value, i) => [own?.[i], value] as const)),
    ).toBeLessThan(1e-9);
  });
});
