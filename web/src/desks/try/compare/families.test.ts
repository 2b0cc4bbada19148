import { describe, expect, it } from '@jest/globals';
import { modelOf } from '@modest-sieve/core/models';
import type { Schemas } from '../../../api/client.js';
import { bestFirst } from '../run-order.js';
import { familiesAtDefaults } from './families.js';

type Run = Schemas['TrialInfo'];

const FIVE = ['most-frequent', 'logistic', 'tree', 'nearest', 'forest'];

/** A run of a family; `mean` is its accuracy. */
const run = (kind: string, more: Partial<Run['plan']> = {}, mean: number | null = null) =>
  ({
    id: kind,
    foldSetId: 'folds',
    plan: { model: modelOf(kind), features: ['a', 'b'], vary: [], weight: null, seed: 1, ...more },
    result: mean === null ? null : { chosen: { metrics: { accuracy: { mean } } } },
  }) as unknown as Run;

describe('families at default settings', () => {
  it('are the runs over the same folds, features and seed, in whatever order features are named', () => {
    const runs = FIVE.map((kind, i) => run(kind, i === 2 ? { features: ['b', 'a'] } : {}));
    expect(familiesAtDefaults(runs).map(({ id }) => id)).toEqual(FIVE);
  });

  it.each([
    ['a curve', { vary: [{ key: 'depth', settings: [] }] }],
    ['other settings', { model: modelOf('tree', { depth: 2 }) }],
    ['another seed', { seed: 2 }],
    ['other features', { features: ['a'] }],
    ['a screening', { screening: { by: 'anova' as const, keep: 1 } }],
  ])('are not mixed with a run of %s', (_, more) => {
    expect(familiesAtDefaults(FIVE.map((kind) => run(kind, kind === 'tree' ? more : {})))).toEqual([]);
  });
});

describe('runs the best first', () => {
  it('have those without a figure last', () => {
    const runs = [run('tree', {}, 0.7), run('forest'), run('logistic', {}, 0.9), run('nearest', {}, 0.7)];
    expect(bestFirst(runs, 'accuracy').map(({ id }) => id)).toEqual([
      'logistic',
      'tree',
      'nearest',
      'forest',
    ]);
    expect(bestFirst(runs.slice(0, 3), 'log_loss').map(({ id }) => id)).toEqual([
      'tree',
      'forest',
      'logistic',
    ]);
  });
});
