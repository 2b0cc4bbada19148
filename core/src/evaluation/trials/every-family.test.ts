import { describe, expect, it } from '@jest/globals';
import { metricNamed } from '../../metrics/registry.js';
import { MODEL_FAMILIES } from '../../models/registry.js';
import { checkTrial } from './plan.js';
import { compareFamilies, everyFamily } from './every-family.js';

const shared = { features: ['x'], metric: 'rmse', weight: null, seed: 7 };

describe('every family', () => {
  it.each(['binary', 'multiclass', 'regression'] as const)(
    'of %s is tried once, by a plan that can be run',
    (task) => {
      const metric = task === 'regression' ? 'rmse' : 'accuracy';
      const plans = everyFamily(task, { ...shared, metric });
      expect(plans.map(({ model }) => model.kind)).toEqual(
        MODEL_FAMILIES.filter(({ tasks }) => tasks.includes(task)).map(({ key }) => key),
      );
      const columns = [
        { name: 'x', kind: 'number' },
        { name: 'y', kind: 'number' },
      ] as const;
      plans.forEach((plan) => expect(() => checkTrial(plan, { target: 'y', task }, columns)).not.toThrow());
    },
  );

  it('that has settings is searched, each for its share of the minutes', () => {
    const search = { method: 'random', count: 8, minutes: 9 } as const;
    const plans = everyFamily('regression', { ...shared, search });
    const kinds = plans.map(({ model }) => model.kind);
    expect(kinds).toEqual(expect.arrayContaining(['lasso', 'tree', 'forest', 'boosting', 'network']));
    expect(kinds).not.toContain('mean');
    expect(kinds).not.toContain('linear');
    const columns = [
      { name: 'x', kind: 'number' },
      { name: 'y', kind: 'number' },
    ] as const;
    for (const plan of plans) {
      expect(plan.search).toEqual({ ...search, minutes: 9 / plans.length });
      expect(() => checkTrial(plan, { target: 'y', task: 'regression' }, columns)).not.toThrow();
    }
  });
});

describe('families at default settings', () => {
  const metric = metricNamed('rmse');
  const run = (kind: string, ...folds: number[]) => ({
    kind,
    folds,
    mean: folds.reduce((a, b) => a + b, 0) / folds.length,
  });

  it('are tuned first where they are the best, or within one standard error of it', () => {
    const found = compareFamilies(
      [
        run('mean', 9, 8, 10, 9, 9),
        run('tree', 6, 6.2, 6.1, 6.3, 6),
        // In two folds better than the best, in three worse.
        run('nearest', 5, 5.6, 5, 5.7, 5.1),
        run('linear', 5.3, 5.1, 5.4, 5, 5.2),
        run('boosting', 5.2, 5.2, 5.2, 5.2, 5),
      ],
      metric,
      5,
    );
    expect(found).toEqual({ best: 'boosting', tune: ['boosting', 'nearest'], nothingToTune: ['linear'] });
  });

  it('that are worse by the same in every fold are not near', () => {
    expect(compareFamilies([run('tree', 5, 5, 5), run('nearest', 5.1, 5.1, 5.1)], metric, 3)?.tune).toEqual([
      'tree',
    ]);
  });

  it('of higher metrics are ordered the other way round; one alone is not compared', () => {
    const accuracy = metricNamed('accuracy');
    const runs = [run('tree', 0.8, 0.9, 0.85), run('nearest', 0.5, 0.6, 0.5)];
    expect(compareFamilies(runs, accuracy, 3)).toEqual({ best: 'tree', tune: ['tree'], nothingToTune: [] });
    expect(compareFamilies(runs.slice(1), accuracy, 3)).toBeNull();
  });
});
