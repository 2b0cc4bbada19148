import { describe, expect, it } from '@jest/globals';
import type { AnswerKey } from '../files/judge.js';
import { scoreRows } from './scored.js';

const keyOf = (values: Float64Array): AnswerKey => ({
  task: 'regression',
  labels: [],
  positive: null,
  classes: null,
  values,
  groups: null,
  feedback: new Uint8Array(values.length),
});
const residualsOf = (truth: Float64Array, predicted: Float64Array) =>
  scoreRows(keyOf(truth), { kind: 'numbers', predicted }, Int32Array.from(truth.keys()), {
    metric: 'rmse',
    stepped: false,
    anchor: 1,
    before: null,
  }).residuals;

describe('the residuals of a file', () => {
  it('are truth less prediction, beside the prediction', () => {
    expect(residualsOf(Float64Array.of(5, 7, 9), Float64Array.of(4, 8, 9))).toEqual({
      predicted: [4, 8, 9],
      residual: [1, -1, 0],
    });
  });

  it('are of every second row where there are more than a plot can show', () => {
    const truth = Float64Array.from({ length: 2001 }, (_, row) => row);
    const found = residualsOf(
      truth,
      truth.map(() => 0),
    );
    expect(found?.residual).toEqual(Array.from({ length: 1001 }, (_, i) => 2 * i));
  });
});
