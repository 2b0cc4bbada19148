import { describe, expect, it } from '@jest/globals';
import { metricNamed } from '../../metrics/registry.js';
import { modelFamilyOf } from '../../models/registry.js';
import { at } from '../../foundation/numbers.js';
import { curveHyperparameter, TRAINING_SHARE } from './plan.js';
import { trialSays } from './says.js';
import { chooseAtFullSize, chooseSetting } from './summary.js';
import type { SettingSummary } from './setting-summary.js';

const accuracy = metricNamed('accuracy');

/** Figures of ten folds about a mean, which go up and down together, with a little of their own. */
const foldsAbout = (mean: number, own: number): number[] =>
  Array.from({ length: 10 }, (_, i) => mean + 0.05 * Math.sin(i * 2.1) + 0.004 * Math.sin(i * 3.7 + own));

/** Settings by mean, error and training figure. */
const settings = (
  rows: readonly (readonly [depth: number, mean: number, se: number, train: number])[],
): SettingSummary[] =>
  rows.map(([depth, mean, se, train]) => ({
    values: { depth },
    size: null,
    metrics: {
      accuracy: { mean, se, folds: foldsAbout(mean, depth), train, gap: train - mean, reason: null },
    },
  }));

const baselineAt = (mean: number) => ({ mean, folds: foldsAbout(mean, 9) });

const depth = modelFamilyOf({ kind: 'tree' }).hyperparameters.filter(({ key }) => key === 'depth');

describe('the choice of a setting', () => {
  const curve = settings([
    [1, 0.7, 0.02, 0.71],
    [2, 0.76, 0.02, 0.78],
    [4, 0.775, 0.02, 0.83],
    [8, 0.75, 0.02, 0.92],
    [16, 0.7, 0.02, 1],
  ]);

  it('is the best, and the simplest within one standard error of it', () => {
    expect(chooseSetting(curve, accuracy, depth)).toEqual({
      best: 2,
      simplest: 1,
      tooSimple: [0],
      memorising: [3, 4],
    });
  });

  it('goes from the other end where larger values are simpler', () => {
    const hyperparameters = [{ key: 'depth', larger: 'simple' as const, settings: [] }];
    expect(chooseSetting(curve, accuracy, hyperparameters)).toMatchObject({
      best: 2,
      simplest: 2,
      tooSimple: [4, 3],
    });
  });

  it('takes lower for better where the metric does, and the simplest of equal ones', () => {
    const of = (mean: number, train: number) => ({ mean, se: 0, folds: [], train, gap: 0, reason: null });
    const flat = [of(3, 3), of(3, 2)].map((rmse, i) => ({
      values: { depth: i + 1 },
      size: null,
      metrics: { rmse },
    }));
    expect(chooseSetting(flat, metricNamed('rmse'), depth)).toMatchObject({
      best: 0,
      simplest: 0,
      // No worse out of fold: not shown to be overfitted.
      memorising: [],
    });
  });

  it('passes over settings whose figure is undefined, and is none where all are', () => {
    const none = { mean: null, se: null, folds: [null], train: null, gap: null, reason: 'fold 1: none' };
    const gone = { values: { depth: 1 }, size: null, metrics: { accuracy: none } };
    expect(chooseSetting([gone, ...curve.slice(1)], accuracy, depth)).toMatchObject({ best: 2, simplest: 1 });
    expect(chooseSetting([gone], accuracy, depth)).toBeNull();
  });

  it('by training size is among those that were trained on the most rows', () => {
    const hyperparameters = [curveHyperparameter(modelFamilyOf({ kind: 'tree' }), TRAINING_SHARE), ...depth];
    const grid = [10, 100].flatMap((share) =>
      curve.map((one) => ({ ...one, values: { [TRAINING_SHARE]: share, ...one.values } })),
    );
    expect(chooseAtFullSize(grid, accuracy, hyperparameters)).toEqual({
      best: 7,
      simplest: 6,
      tooSimple: [5],
      memorising: [8, 9],
    });
  });

  it('by training size says whether more rows would help, and nothing of memorising', () => {
    const by = (last: number) =>
      [0.6, 0.7, last].map((mean, i) => ({
        values: { [TRAINING_SHARE]: 20 * (i + 1) },
        size: null,
        metrics: {
          accuracy: { mean, se: 0.01, folds: foldsAbout(mean, i), train: 1, gap: 0.2, reason: null },
        },
      }));
    const said = (last: number, folds = 10) =>
      trialSays({
        settings: by(last),
        choices: { accuracy: chooseAtFullSize(by(last), accuracy, []) },
        place: 2,
        metric: accuracy,
        labels: {},
        validation: null,
        baseline: baselineAt(0.5),
        limits: {},
        folds,
        tried: 2,
        isBaseline: false,
        majority: null,
        grouping: null,
      }).map(({ message }) => message);
    expect(said(0.75)).toEqual(['More rows would help further', 'Better than guessing']);
    expect(said(0.6)).toEqual(['More rows would help little', 'Better than guessing']);
    // Without the figures of several folds there is no test.
    expect(said(0.75, 1)).toEqual([
      'Whether more rows would help cannot be shown',
      'Not shown to be better than guessing',
    ]);
  });

  it('is said in sentences: what is enough, where it memorises, what one split and a baseline say', () => {
    const choices = { accuracy: chooseSetting(curve, accuracy, depth) };
    const run = {
      settings: curve,
      choices,
      place: 1,
      metric: accuracy,
      labels: { depth: 'depth' },
      limits: { depth: { min: 1 } },
      folds: 10,
      tried: 2,
      isBaseline: false,
      majority: null,
      grouping: null,
    };
    const said = trialSays({ ...run, validation: 0.99, baseline: baselineAt(0.759) });
    expect(said.map(({ id, outcome }) => `${id} ${outcome}`)).toEqual([
      'enough holds',
      'memorises fails',
      'flattered unsure',
      'single unsure',
      'baseline unsure',
    ]);
    expect(said[0]).toMatchObject({
      message: 'Depth 2 is enough',
      measured: expect.stringContaining('depth 4'),
    });
    expect(said[1]?.message).toBe('Beyond depth 4 it memorises');
    expect(said[2]?.message).toBe('The figure of depth 4 is chosen as the best of 5');
    expect(said[3]?.message).toBe('One split is better than the folds');
    expect(said[4]?.message).toBe('Not shown to be better than guessing');
    const better = trialSays({ ...run, validation: 0.77, baseline: baselineAt(0.6) });
    expect(better.map(({ outcome }) => outcome)).toEqual(['holds', 'fails', 'unsure', 'holds', 'holds']);
    expect(trialSays({ ...run, settings: [], choices: {}, validation: null, baseline: null })).toEqual([]);
    expect(trialSays({ ...run, validation: null, baseline: null }).at(-1)).toMatchObject({
      id: 'baseline',
      outcome: 'unsure',
    });
    expect(
      trialSays({ ...run, tried: 25, validation: null, baseline: baselineAt(0.9) }).slice(-2),
    ).toMatchObject([
      { message: 'Worse than guessing', outcome: 'fails' },
      { message: '25 runs were tried on these folds' },
    ]);
  });

  it('at the end of a curve says so only where settings beyond exist', () => {
    const falling = settings([
      [1, 0.8, 0.02, 0.81],
      [2, 0.7, 0.02, 0.82],
    ]);
    const run = {
      settings: falling,
      choices: { accuracy: chooseSetting(falling, accuracy, depth) },
      place: 0,
      metric: accuracy,
      labels: {},
      folds: 10,
      tried: 1,
      validation: null,
      baseline: null,
      majority: null,
      grouping: null,
      isBaseline: true,
    };
    const ids = (min: number) => trialSays({ ...run, limits: { depth: { min } } }).map(({ id }) => id);
    expect(ids(1)).not.toContain('end');
    expect(ids(0)).toContain('end');
  });

  const ranked = settings([[3, 0.8, 0.02, 0.9]]).map((setting) => ({
    ...setting,
    metrics: { ...setting.metrics, roc_auc: { ...at(Object.values(setting.metrics), 0), mean: 0.85 } },
  }));
  const plain = {
    settings: ranked,
    choices: {},
    place: 0,
    metric: metricNamed('roc_auc'),
    labels: {},
    limits: {},
    folds: 10,
    tried: 1,
    validation: null,
    baseline: null,
    majority: null,
    grouping: null,
    isBaseline: false,
  };
  const about = (id: string, over: Partial<Parameters<typeof trialSays>[0]>) =>
    trialSays({ ...plain, ...over }).find((one) => one.id === id);

  it('judged by another metric has its accuracy compared with the most frequent class', () => {
    expect(about('majority', { majority: baselineAt(0.6) })).toMatchObject({
      outcome: 'holds',
      measured: expect.stringContaining('accuracy 0.8, the most frequent class 0.6'),
    });
    expect(about('majority', { majority: baselineAt(0.81) })).toMatchObject({ outcome: 'unsure' });
    expect(about('majority', {})).toBeUndefined();
    expect(about('majority', { majority: baselineAt(0.6), metric: accuracy })).toBeUndefined();
  });

  it('over random and over grouped folds says whether the random ones are better by more than chance', () => {
    const over = (mean: number) => ({ mean, folds: foldsAbout(mean, 1), k: 10 });
    const grouping = (random: number, grouped: number) =>
      about('grouping', { grouping: { column: 'apiary', random: over(random), grouped: over(grouped) } });
    expect(grouping(0.9, 0.7)).toMatchObject({
      outcome: 'fails',
      message: 'Random folds are too good: rows of one apiary are on both sides',
    });
    expect(grouping(0.72, 0.7)?.outcome).toBe('unsure');
    // Grouped folds that are better are no sign of a leak.
    expect(grouping(0.7, 0.9)?.outcome).toBe('unsure');
    // Of both the variance (1/10 + 1/9) s²; 2.262 is the 97.5 % point of Student's t with 9 degrees of freedom (tables).
    const folds = foldsAbout(0, 1);
    const mean = folds.reduce((a, b) => a + b, 0) / 10;
    const s = Math.sqrt(folds.reduce((sum, value) => sum + (value - mean) ** 2, 0) / 9);
    const least = 2.262 * Math.sqrt(2 * (1 / 10 + 1 / 9)) * s;
    expect(grouping(0.7 + 1.01 * least, 0.7)?.outcome).toBe('fails');
    expect(grouping(0.7 + 0.99 * least, 0.7)?.outcome).toBe('unsure');
    expect(about('grouping', {})).toBeUndefined();
  });
});
