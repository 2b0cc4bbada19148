import { expect, it } from '@jest/globals';
import { at, indices } from '../../../foundation/numbers.js';
import { seededRandom, type Random } from '../../../foundation/random/random.js';
import type { Table } from '../../../data/table/table.js';
import type { AnswerKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';
import { scaled } from '../../model-files/scaled-columns.js';
import { foundOtherwise } from './found-otherwise.js';
import { normal } from './models-of-tests.js';

const ROWS = 250;
const WEIGHTS = [2, -1.5, 1, 0, 0];

/** A linear model: a weight for each column, and last the constant. */
type Linear = readonly number[];

/** Columns of other means and scales, spread over powers of ten, and numbers that depend on three of them. */
function course(random: Random, spread: number) {
  const scales = WEIGHTS.map(() => 10 ** (spread * (2 * random.unit() - 1)));
  const means = scales.map((scale) => 3 * scale * normal(random));
  const table: Table = {
    rowCount: ROWS,
    columns: scales.map((scale, i) => ({
      kind: 'number',
      name: `x${i}`,
      values: Float64Array.from({ length: ROWS }, () => at(means, i) + scale * normal(random)),
    })),
  };
  const truth = says([...WEIGHTS.map((weight, i) => weight / at(scales, i)), 0], table);
  const values = truth.predicted.map((value) => value + 2 * normal(random));
  const key: AnswerKey = {
    ...{ task: 'regression', labels: [], positive: null, classes: null, groups: null },
    ...{ values, feedback: new Uint8Array(ROWS) },
  };
  return { table, key };
}

const cell = ({ columns }: Table, column: number, row: number): number => {
  const one = at(columns, column);
  return one.kind === 'number' ? at(one.values, row) : NaN;
};

function says(model: Linear, table: Table): Predictions & { kind: 'numbers' } {
  const constant = at(model, model.length - 1);
  const predicted = Float64Array.from(indices(ROWS), (row) =>
    table.columns.reduce((sum, _, i) => sum + at(model, i) * cell(table, i, row), constant),
  );
  return { kind: 'numbers', predicted };
}

/** Gradient descent, row by row or over all of them, which need not come to an end. */
function fitted(table: Table, key: AnswerKey, random: Random, how: Descent): Linear {
  const model = new Float64Array(WEIGHTS.length + 1);
  const values = key.values ?? new Float64Array();
  const move = (row: number, by: number) => {
    const error =
      table.columns.reduce((sum, _, i) => sum + at(model, i) * cell(table, i, row), at(model, 5)) -
      at(values, row);
    table.columns.forEach((_, i) => (model[i] = at(model, i) - by * error * cell(table, i, row)));
    model[5] = at(model, 5) - by * error;
  };
  for (let pass = 0; pass < how.passes; pass++)
    for (let i = 0; i < ROWS; i++) move(random.below(ROWS), how.rate);
  return Array.from(model);
}
interface Descent {
  readonly passes: number;
  readonly rate: number;
}

/** Whether scaling is named where a model takes the numbers as they stand. */
const isNamed = ({ table, key }: ReturnType<typeof course>, model: Linear): boolean => {
  const otherwise = scaled(table, indices(ROWS)).map(({ name, table: given }) => ({
    ...{ slip: 'preparation-missing' as const, way: name },
    predictions: says(model, given),
  }));
  return foundOtherwise(says(model, table), otherwise, key) !== null;
};

it('is named of models of scaled numbers, and hardly ever of ones that were fitted badly or not at all', () => {
  const random = seededRandom(20261202, 'scaling');
  const named = { scaled: 0, badly: 0, any: 0 };
  const N = 60;
  for (let i = 0; i < N; i++) {
    const one = course(random, 0.5 + (i % 4) / 2);
    const [standardised] = scaled(one.table, indices(ROWS));
    const right = fitted(standardised?.table ?? one.table, one.key, random, { passes: 8, rate: 0.01 });
    const badly = fitted(one.table, one.key, random, { passes: 3, rate: 10 ** (-1 - 4 * random.unit()) });
    if (isNamed(one, right)) named.scaled++;
    if (badly.every(Number.isFinite) && isNamed(one, badly)) named.badly++;
    const any = [...WEIGHTS, 0].map(() => normal(random));
    if (isNamed(one, any)) named.any++;
  }
  expect(named.scaled).toBeGreaterThan(0.9 * N);
  expect(named.badly + named.any).toBeLessThanOrEqual(1);
});
