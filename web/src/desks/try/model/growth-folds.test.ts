import { describe, expect, it } from '@jest/globals';
import { modelOf } from '@modest-sieve/core/models';
import { errorOverFolds } from './growth-folds.js';

const summary = (mean: number, se: number | null) => ({
  mean,
  se,
  folds: [mean],
  train: null,
  gap: null,
  reason: null,
});
const trial = (more: object = {}) => ({
  plan: {
    model: modelOf('forest'),
    features: ['x'],
    vary: [],
    metric: 'accuracy',
    choose: 'best' as const,
    weight: null,
    seed: 1,
  },
  vary: [{ key: 'trees', settings: [10, 1] }],
  settings: [
    { values: { trees: 10 }, size: 5, metrics: { accuracy: summary(0.8, 0.02) } },
    { values: { trees: 1 }, size: 1, metrics: { accuracy: summary(0.7, null) } },
  ],
  ...more,
});

describe('the error of a growing model over the folds', () => {
  it('is that of each number of trees, from few to many, as an error', () => {
    const found = errorOverFolds({ of: 'trees', measure: 'error rate' }, trial());
    expect(found.map(({ x }) => x)).toEqual([1, 10]);
    expect(found[0]).toEqual({ x: 1, y: expect.closeTo(0.3) });
    expect(found[1]).toEqual({ x: 10, y: expect.closeTo(0.2), error: 0.02 });
  });

  it('is not told of another setting, of a grid, of a search or of a loss that no metric of a trial is', () => {
    const of = (more: object, measure: 'error rate' | 'quantile loss' = 'error rate') =>
      errorOverFolds({ of: 'trees', measure }, trial(more));
    const depth = { key: 'depth', settings: [1] };
    expect(of({ vary: [depth] })).toEqual([]);
    expect(of({ vary: [{ key: 'trees', settings: [1] }, depth] })).toEqual([]);
    expect(of({ plan: { ...trial().plan, search: { method: 'random', count: 3, minutes: 1 } } })).toEqual([]);
    expect(of({}, 'quantile loss')).toEqual([]);
  });
});
