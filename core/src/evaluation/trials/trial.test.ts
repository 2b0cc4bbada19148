import { describe, expect, it } from '@jest/globals';
import { diabetes, iris } from '../../../test/files.js';
import { request } from '../../../test/models.js';
import { makeFolds, testRows } from '../../splitting/folds/folds.js';
import { metricNamed } from '../../metrics/registry.js';
import { fitModel, judgedBy, predictRows } from '../../models/fitted.js';
import { modelOf } from '../../models/registry.js';
import { targetRows } from '../../models/prepared/target.js';
import { measureFold, settleSettings, type FoldFigures } from './measure.js';
import { checkTrial, settingsOf, TRAINING_SHARE, type TrialPlan } from './plan.js';
import { summariseSetting } from './summary.js';

describe('a fold', () => {
  const table = iris();
  const folds = makeFolds(table, { method: 'stratified', k: 5, seed: 1, stratify: 'target' });
  const fold = (f: number) => ({ training: folds.training(0, f), test: testRows(folds, 0, f) });
  const asked = request(table, 'target', 'multiclass', 'tree');

  it('is measured on the held-out rows by a model that was trained on the others alone', () => {
    const { figures } = measureFold({ ...asked, ...fold(0), vary: [] });
    const fitted = fitModel({ ...asked, rows: fold(0).training });
    const test = fold(0).test;
    const judged = judgedBy(targetRows(asked.target, test), predictRows(fitted, table, test));
    const right = Array.from(judged.data.truth).filter((code, i) => code === judged.data.predicted[i]).length;
    expect(figures[0]?.test['accuracy']).toEqual({ value: right / test.length });
    expect(figures[0]?.train['accuracy']).toEqual({ value: 1 });
  });

  it('along a curve and over a grid has the figures of single fits', () => {
    const vary = [
      { key: 'rows_per_leaf', settings: [1, 10] },
      { key: 'depth', settings: [1, 2, 5] },
    ];
    const { figures } = measureFold({ ...asked, ...fold(1), vary });
    settingsOf(vary).forEach((values, i) => {
      const model = modelOf('tree', values);
      const [single] = measureFold({ ...asked, model, ...fold(1), vary: [] }).figures;
      expect(figures[i]?.test).toEqual(single?.test);
      expect(figures[i]?.size).toBe(single?.size);
    });
  });

  it('by training size is trained on ever more of the same rows, with all of them at last', () => {
    const vary = [{ key: TRAINING_SHARE, settings: [10, 50, 100] }];
    const { figures } = measureFold({ ...asked, ...fold(2), vary });
    const whole = measureFold({ ...asked, ...fold(2), vary: [] });
    expect(figures).toHaveLength(3);
    expect(figures[2]?.test).toEqual(whole.figures[0]?.test);
    expect(figures[0]?.size).toBeLessThan(figures[2]?.size ?? 0);
  });

  it('gives the same whatever is computed beside it', () => {
    const vary = [{ key: 'depth', settings: [1, 3] }];
    const once = [0, 1, 2].map((f) => measureFold({ ...asked, ...fold(f), vary }));
    const again = [2, 0, 1].map((f) => measureFold({ ...asked, ...fold(f), vary }));
    expect([again[1], again[2], again[0]]).toEqual(once);
  });

  it('takes the settings of a path from all training rows, so that folds share them', () => {
    const people = diabetes();
    const lasso = request(people, 'target', 'regression', 'lasso');
    const [path] = settleSettings(lasso, { vary: [{ key: 'penalty', settings: [] }] });
    expect(path?.settings).toHaveLength(100);
    expect(path?.settings[0]).toBeCloseTo(45.16003, 4);
    expect(settleSettings(asked, { vary: [{ key: 'depth', settings: [] }] })[0]?.settings).toHaveLength(20);
  });

  it('of a grid runs fastest along the setting that a family fits together, and gives what single fits give', () => {
    const people = diabetes();
    const net = request(people, 'target', 'regression', 'elastic-net');
    const vary = settleSettings(net, {
      vary: [
        { key: 'penalty', settings: [1, 10] },
        { key: 'mixing', settings: [0.2, 0.9] },
      ],
    });
    expect(vary.map(({ key }) => key)).toEqual(['mixing', 'penalty']);
    const halves = {
      training: net.rows.filter((row) => row % 2 === 0),
      test: net.rows.filter((row) => row % 2 > 0),
    };
    const { figures } = measureFold({ ...net, ...halves, vary });
    settingsOf(vary).forEach((values, i) => {
      const model = modelOf('elastic-net', values);
      const [single] = measureFold({ ...net, model, ...halves, vary: [] }).figures;
      expect(figures[i]?.test['rmse']?.value).toBeCloseTo(single?.test['rmse']?.value ?? NaN, 6);
    });
  });

  it('summary: mean and standard error over folds, gap in the direction of better', () => {
    const figure = (test: number, train: number): FoldFigures => ({
      test: { rmse: { value: test } },
      train: { rmse: { value: train } },
      size: 3,
    });
    const { metrics, size } = summariseSetting({}, [figure(4, 3), figure(6, 3)], [metricNamed('rmse')]);
    expect(metrics['rmse']).toMatchObject({ mean: 5, se: 1, train: 3, gap: 2, folds: [4, 6] });
    expect(size).toBe(3);
  });
});

describe('a plan', () => {
  const plan: TrialPlan = {
    model: modelOf('tree'),
    features: ['sepal_length'],
    vary: [],
    metric: 'accuracy',
    choose: 'best',
    weight: null,
    seed: 1,
  };
  const check = (more: Partial<TrialPlan>) => () =>
    checkTrial({ ...plan, ...more }, { target: 'target', task: 'multiclass' }, iris().columns);

  it.each([
    [{ features: [] }, 'at least one feature'],
    [{ features: ['petal'] }, 'no column “petal”'],
    [{ features: ['target'] }, 'is the target'],
    [{ features: ['sepal_length', 'sepal_length'] }, 'chosen twice'],
    [{ weight: 'sepal_length' }, 'weighs the rows'],
    [{ metric: 'rmse' }, 'does not judge'],
    [{ vary: [{ key: 'depth', settings: [0] }] }, 'it runs from 1 to 200'],
    [{ vary: [{ key: 'depth', settings: [1.5] }] }, 'no whole number'],
    [{ vary: [{ key: 'depth', settings: [2, 2] }] }, 'named twice'],
    [{ vary: [{ key: 'colour', settings: [] }] }, 'no curve over colour'],
    [
      {
        vary: [
          { key: 'depth', settings: [] },
          { key: 'depth', settings: [] },
        ],
      },
      'Each setting is varied once',
    ],
    [{ model: modelOf('mean') }, 'does not predict for this task'],
  ])('%j is refused', (more, words) => {
    expect(check(more)).toThrow(words);
  });

  it('that fits is taken, with a curve by training size too', () => {
    expect(check({ vary: [{ key: TRAINING_SHARE, settings: [10, 100] }] })).not.toThrow();
  });
});
