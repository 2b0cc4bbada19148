import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { meanOf, request } from '../../../test/models.js';
import { makeFolds, testRows } from '../../splitting/folds/folds.js';
import { metricNamed } from '../../metrics/registry.js';
import { fitModel, judgedBy, predictRows } from '../../models/fitted.js';
import { modelOf } from '../../models/registry.js';
import { targetRows } from '../../models/prepared/target.js';
import { seededRandom } from '../../foundation/random/random.js';
import { screeningLeak } from '../screening/inside-outside.js';
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

describe('a screening before the model', () => {
  const people = diabetes();
  const screening = { by: 'anova', keep: 2 } as const;
  const asked = request(people, 'target', 'regression', 'linear', {}, { screening });
  const folds = makeFolds(people, { method: 'k-fold', k: 5, seed: 1 });
  const parts = Array.from({ length: 5 }, (_, fold) => ({
    training: folds.training(0, fold),
    test: testRows(folds, 0, fold),
  }));
  const rmse = metricNamed('rmse');

  it('is learned by the training rows of each fold, as the view of a screening inside the folds does', () => {
    const { screening: _, ...all } = asked;
    const { inside, outside } = screeningLeak(all, parts, screening, rmse);
    const figures = parts.map(
      (part) => measureFold({ ...asked, ...part, vary: [] }).figures[0]?.test['rmse']?.value ?? NaN,
    );
    expect(meanOf(figures)).toBeCloseTo(inside.mean ?? NaN, 12);
    // s5 and bmi are the strongest in every fold; with five kept the folds differ.
    expect(inside.mean).toBe(outside.mean);
    const five = { by: 'mutual-information', keep: 5 } as const;
    const other = screeningLeak(all, parts, five, rmse);
    expect(other.inside.mean).not.toBe(other.outside.mean);
    const own = parts.map(
      (part) =>
        measureFold({ ...asked, screening: five, ...part, vary: [] }).figures[0]?.test['rmse']?.value ?? NaN,
    );
    expect(meanOf(own)).toBeCloseTo(other.inside.mean ?? NaN, 12);
  });

  it('leaves the final model with the columns that all training rows keep, the strongest of them', () => {
    const { recipe } = fitModel(asked);
    expect(recipe.features.map(({ name }) => name).sort()).toEqual(['bmi', 's5']);
    expect(predictRows(fitModel(asked), people, asked.rows)).toEqual(
      predictRows(
        fitModel({ ...asked, screening: null, features: recipe.features.map(({ name }) => name) }),
        people,
        asked.rows,
      ),
    );
  });

  it('finds nothing in columns of noise, however many there are', () => {
    const accuracies = Array.from({ length: 12 }, (_unused, seed) => {
      const random = seededRandom(seed);
      const names = Array.from({ length: 300 }, (_column, c) => `x${c}`);
      const lines = Array.from({ length: 60 }, (_row, row) =>
        [...names.map(() => random.unit()), row % 2 === 0 ? 'yes' : 'no'].join(','),
      );
      const noise = tableOf(`${[...names, 'lost'].join(',')}\n${lines.join('\n')}\n`);
      const model = request(noise, 'lost', 'binary', 'logistic', {}, { screening: { by: 'anova', keep: 5 } });
      const own = makeFolds(noise, { method: 'stratified', k: 5, seed: 1, stratify: 'lost' });
      const right = Array.from({ length: 5 }, (_fold, fold) => {
        const part = { training: own.training(0, fold), test: testRows(own, 0, fold) };
        return measureFold({ ...model, ...part, vary: [] }).figures[0]?.test['accuracy']?.value ?? NaN;
      });
      return meanOf(right);
    });
    // One run spreads by 0.1, so that 12 lie within three standard errors of guessing; 0.8 and more where all rows choose.
    expect(Math.abs(meanOf(accuracies) - 0.5)).toBeLessThan((3 * 0.1) / Math.sqrt(12));
  });

  it('that can keep no column says so', () => {
    const flat = tableOf('x,y\n1,2\n1,3\n1,4\n1,6\n');
    expect(() =>
      fitModel(request(flat, 'y', 'regression', 'linear', {}, { screening: { by: 'anova', keep: 1 } })),
    ).toThrow('No column can be screened so');
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
    [{ screening: { by: 'anova' as const, keep: 2 } }, 'A screening of 1 column keeps from 1 to 1, not 2'],
    [{ screening: { by: 'anova' as const, keep: 0.5 } }, 'not 0.5'],
    [{ screening: { by: 'luck' as 'anova', keep: 1 } }, 'no screening by “luck”'],
    [{ model: modelOf('mean') }, 'does not predict for this task'],
  ])('%j is refused', (more, words) => {
    expect(check(more)).toThrow(words);
  });

  it('that fits is taken, with a curve by training size too', () => {
    expect(check({ vary: [{ key: TRAINING_SHARE, settings: [10, 100] }] })).not.toThrow();
  });
});
