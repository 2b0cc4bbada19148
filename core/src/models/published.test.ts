import { isOf } from './contract/state.js';
import { treeForm } from './tree/form.js';
import { describe, expect, it } from '@jest/globals';
import { diabetes, tableOf, testFile } from '../../test/files.js';
import { fit } from '../../test/models.js';
import { indices } from '../foundation/numbers.js';
import { codedColumn } from '../data/table/recode.js';
import { columnNamed, type Table } from '../data/table/table.js';
import { predictRows } from './fitted.js';

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
