import { isOf } from './contract/state.js';
import { treeForm } from './tree/state.js';
import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf, testFile } from '../../test/files.js';
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

describe('published fits', () => {
  const read = (name: string): Table => modelTable(`reference/published/${name}.csv`);

  it('low birth weight by logistic regression (Hosmer and Lemeshow, Applied Logistic Regression, tables 2.2 and 2.3, from memory; data from R’s MASS)', () => {
    const raw = read('birthwt');
    // Race is numbered, and is a category.
    const race = columnNamed(raw, 'race');
    const codes =
      race.kind === 'number' ? Int32Array.from(race.values, (value) => value - 1) : new Int32Array();
    const table = {
      rowCount: raw.rowCount,
      columns: raw.columns.map((column) =>
        column.name === 'race' ? codedColumn('race', ['1', '2', '3'], codes, 'category') : column,
      ),
    };
    const { description } = fit(table, 'low', 'binary', 'logistic');
    const published: [string, number, number][] = [
      ['(intercept)', 1.295, 1.0714],
      ['age', -0.024, 0.0337],
      ['lwt', -0.014, 0.0065],
      ['race = 2', 1.004, 0.4979],
      ['race = 3', 0.433, 0.3622],
      ['ftv', -0.049, 0.1672],
    ];
    for (const [term, estimate, se] of published) {
      const own = description.coefficients?.find((one) => one.term === term);
      expect(own?.estimate).toBeCloseTo(estimate, 3);
      expect(own?.se).toBeCloseTo(se, 4);
    }
    expect(description.figures?.['log_likelihood']).toBeCloseTo(-111.286, 3);
    // Without age and visits, which is what elimination by p leaves out as well, though it goes further.
    const { description: less } = fit(table, 'low', 'binary', 'logistic', { eliminate: 'p' });
    expect(less.removed?.map(({ feature }) => feature).slice(0, 2)).toEqual(['ftv', 'age']);
    expect(less.removed?.[0]?.p).toBeCloseTo(0.768, 3);
  });

  it('the lasso lets the features of the diabetes study in as least angle regression does (Efron and others, Annals of Statistics 32, 2004, figure 1, from memory)', () => {
    const { description } = fit(diabetes(), 'target', 'regression', 'lasso');
    const { terms = [], points = [] } = description.path ?? {};
    const entry = terms.map((name, term) => ({
      name,
      at: points.findIndex((one) => one.coefficients[term] !== 0),
    }));
    const order = [...entry].sort((a, b) => a.at - b.at).map(({ name }) => name);
    // bmi and s5 come in together at the first step of a path of 100 penalties.
    expect(new Set(order.slice(0, 2))).toEqual(new Set(['bmi', 's5']));
    expect(order.slice(2, 6)).toEqual(['bp', 's3', 'sex', 's6']);
  });

  it('kyphosis after surgery as a tree (Therneau and Atkinson, An Introduction to Recursive Partitioning; R, rpart)', () => {
    const table = read('kyphosis');
    const { state } = fit(table, 'Kyphosis', 'binary', 'tree', {
      rows_per_split: 20,
      rows_per_leaf: 7,
      depth: 30,
    });
    const nodes = isOf(treeForm, state) ? state.nodes : [];
    const [root] = nodes;
    expect(root?.values).toEqual([64, 17]);
    expect(root?.split).toMatchObject({ name: 'Start', kind: 'threshold', threshold: 8.5 });
    const child = (place: number) => nodes[root?.split?.children[place] ?? -1];
    expect(child(0)?.values).toEqual([8, 11]);
    expect(child(1)?.values).toEqual([56, 6]);
    expect(child(1)?.split).toMatchObject({ name: 'Start', threshold: 14.5 });
    const middle = nodes[child(1)?.split?.children[0] ?? -1];
    expect(middle?.values).toEqual([27, 6]);
    expect(middle?.split).toMatchObject({ name: 'Age', threshold: 55 });
  });
});

function modelTable(path: string): Table {
  const lines = new TextDecoder().decode(testFile(path)).trim().split('\n');
  const cells = lines.map((line) => line.split(',').map((cell) => cell.replaceAll('"', '')));
  const [header = [], ...rows] = cells;
  return {
    rowCount: rows.length,
    columns: header.map((name, c) => {
      const texts = rows.map((row) => row[c] ?? '');
      const numbers = texts.map(Number);
      if (numbers.every((value) => !Number.isNaN(value)))
        return { kind: 'number' as const, name, values: Float64Array.from(numbers) };
      const levels = [...new Set(texts)].sort();
      return codedColumn(
        name,
        levels,
        Int32Array.from(texts, (text) => levels.indexOf(text)),
        'category',
      );
    }),
  };
}

describe('naive Bayes without Laplace’s correction', () => {
  it('gives a level that a class never has no chance, and one that both have its share', () => {
    const table = tableOf('level,y\na,yes\na,yes\na,no\nb,no\n');
    const fitted = fit(table, 'y', 'binary', 'naive-bayes', { kind: 'mixed', laplace: 0 });
    const [, yes] = predictRows(fitted, table, indices(4));
    // P(a | yes) = 1, P(a | no) = 1/2, equal priors: 2/3; b was never yes.
    expect(yes?.[0]).toBeCloseTo(2 / 3, 9);
    expect(yes?.[3]).toBeLessThan(1e-6);
  });
});
