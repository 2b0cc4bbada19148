import { describe, expect, it } from '@jest/globals';
import { modelOf } from '@modest-sieve/core/models';
import { modelsTried } from './models-tried.js';

type Run = Parameters<typeof modelsTried>[0][number];

const run = (
  kind: string,
  mean: number,
  more: { values?: Record<string, number>; chosen?: Record<string, number>; foldSetId?: string } = {},
): Run =>
  ({
    id: kind,
    foldSetId: more.foldSetId ?? 'here',
    state: 'done',
    plan: { model: modelOf(kind, more.values ?? {}) },
    result: { chosen: { values: more.chosen ?? {}, metrics: { accuracy: { mean } } } },
  }) as unknown as Run;

describe('models that can be combined', () => {
  const runs = [
    run('nearest', 0.7),
    run('forest', 0.9, { values: { depth: 6 }, chosen: { trees: 60, training_share: 100 } }),
    run('tree', 0.8, { foldSetId: 'elsewhere', values: { depth: 2 } }),
    run('combination', 0.95),
    run('most-frequent', 0.5),
  ];
  const lines = modelsTried(runs, 'here', 'accuracy', 'binary');

  it('are those of runs over these folds at the settings that were chosen, the best first', () => {
    expect(lines.slice(0, 2)).toEqual(['forest trees=60 depth=6', 'nearest']);
  });

  it('and every other family as it begins, but for those that are made of others', () => {
    expect(lines).toContain('tree');
    expect(lines).not.toContain('combination');
    expect(lines).not.toContain('bagging');
    expect(lines.filter((line) => line === 'nearest')).toHaveLength(1);
    expect(modelsTried([], 'here', 'mse', 'regression')).not.toContain('logistic');
  });
});
