import { describe, expect, it } from '@jest/globals';
import { testFile } from '../../test/files.js';
import { referenceCase } from '../../test/reference-case.js';
import { readCsv } from '../data/formats/csv/read.js';
import { leastSquares } from '../foundation/statistics/least-squares.js';
import { at } from '../foundation/numbers.js';
import { pearson, spearman } from '../data/profile/association.js';
import { bestThreshold, gainCurve, precisionRecallCurve, rocCurve } from './curves/curves.js';
import { figureOf, type Judged } from './judged.js';
import type { LabelData } from './metric.js';
import { metricNamed } from './registry.js';
import { wilson } from '../foundation/statistics/wilson.js';

type Values = Record<string, number>;
const more = JSON.parse(new TextDecoder().decode(testFile('reference/more.json'))) as {
  source: string;
  wilson: { hits: number; of: number; level: number; interval: [number, number] };
} & Record<string, Values>;

/** A binary task from scores alone. */
const scored = (scores: readonly number[], truth: readonly number[]): LabelData => ({
  labels: ['n', 'p'],
  positive: 1,
  truth: Int32Array.from(truth),
  predicted: Int32Array.from(scores, (score) => (score >= 0.5 ? 1 : 0)),
  probabilities: [Float64Array.from(scores, (score) => 1 - score), Float64Array.from(scores)],
  weights: null,
});
const value = (key: string, data: LabelData) => figureOf(metricNamed(key), { kind: 'labels', data }).value;

describe('metrics that the cases leave out equal scikit-learn 1.2.1 and scipy 1.10.1', () => {
  for (const name of ['multiclass-wine', 'multiclass-iris', 'binary', 'binary-ties-weights', 'regression']) {
    const { judged } = referenceCase(name);
    const keys = Object.keys(more[name] ?? {}).filter(
      (key) => !key.startsWith('roc_points') && !key.endsWith('_sum'),
    );
    it.each(keys)(`${name}: %s`, (key) => {
      expect(figureOf(metricNamed(key), judged).value).toBeCloseTo(more[name]?.[key] ?? NaN, 12);
    });
  }

  it.each(['binary', 'binary-ties-weights'])(
    '%s: the points of the ROC and precision–recall curves',
    (name) => {
      const { judged } = referenceCase(name);
      if (judged.kind !== 'labels') throw new Error('a case of classes');
      const roc = rocCurve(judged.data);
      expect(roc).toHaveLength(more[name]?.['roc_points'] ?? NaN);
      expect(roc.reduce((sum, { x, y }) => sum + x + y, 0)).toBeCloseTo(more[name]?.['roc_sum'] ?? NaN, 8);
      const pr = precisionRecallCurve(judged.data);
      expect(pr.reduce((sum, { x, y }) => sum + x + y, 0)).toBeCloseTo(more[name]?.['pr_sum'] ?? NaN, 8);
    },
  );

  it('Wilson’s interval at another level (statsmodels, proportion_confint)', () => {
    const { hits, of, level, interval } = more.wilson;
    const found = wilson(hits, of, level);
    expect([found.low, found.high]).toEqual(interval.map((bound) => expect.closeTo(bound, 12)));
  });
});

describe('published worked examples', () => {
  // Fawcett, Pattern Recognition Letters 27 (2006), figure 3: twenty instances and their scores; from memory.
  const fawcett = scored(
    [
      0.9, 0.8, 0.7, 0.6, 0.55, 0.54, 0.53, 0.52, 0.51, 0.505, 0.4, 0.39, 0.38, 0.37, 0.36, 0.35, 0.34, 0.33,
      0.3, 0.1,
    ],
    [1, 1, 0, 1, 1, 1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 0, 1, 0, 1, 0],
  );

  it('Fawcett (2006): accuracy is highest, 70 %, at the point (0.1, 0.5), whose threshold is 0.54', () => {
    expect(bestThreshold(fawcett, 'accuracy')).toEqual({ threshold: 0.54, value: 0.7 });
    expect(rocCurve(fawcett).find(({ threshold }) => threshold === 0.54)).toMatchObject({ x: 0.1, y: 0.5 });
    expect(value('accuracy', fawcett)).toBeCloseTo(0.6, 12);
  });

  it('Hanley and McNeil (1982), table I: the area of 109 rated images is 0.893; from memory', () => {
    const normal = [33, 6, 6, 11, 2];
    const abnormal = [3, 2, 2, 11, 33];
    const repeat = (counts: readonly number[], label: number) =>
      counts.flatMap((count, rating) =>
        Array.from({ length: count }, () => ({ rating: (rating + 1) / 5, label })),
      );
    const rows = [...repeat(normal, 0), ...repeat(abnormal, 1)];
    const data = scored(
      rows.map(({ rating }) => rating),
      rows.map(({ label }) => label),
    );
    expect(value('roc_auc', data)).toBeCloseTo(0.893, 3);
  });

  it('kappa of 20, 5, 10 and 15 of 50 proposals is 0.4 (worked example of many textbooks; from memory)', () => {
    const rows = [
      [1, 1, 20],
      [1, 0, 5],
      [0, 1, 10],
      [0, 0, 15],
    ].flatMap(([truth = 0, predicted = 0, count]) =>
      Array.from({ length: count ?? 0 }, () => [truth, predicted] as const),
    );
    const data: LabelData = {
      ...scored([0], [0]),
      truth: Int32Array.from(rows, ([truth]) => truth),
      predicted: Int32Array.from(rows, ([, predicted]) => predicted),
      probabilities: null,
    };
    expect(value('kappa', data)).toBeCloseTo(0.4, 12);
  });

  it('Efron and Tibshirani (1993), table 3.1: test score and grade of 15 law schools correlate at 0.776; from memory', () => {
    const lsat = [576, 635, 558, 578, 666, 580, 555, 661, 651, 605, 653, 575, 545, 572, 594];
    const gpa = [3.39, 3.3, 2.81, 3.03, 3.44, 3.07, 3.0, 3.43, 3.36, 3.13, 3.12, 2.74, 2.76, 2.88, 2.96];
    expect(pearson(Float64Array.from(lsat), Float64Array.from(gpa))).toBeCloseTo(0.776, 3);
    const judged: Judged = {
      kind: 'numbers',
      data: {
        truth: Float64Array.from(lsat),
        predicted: Float64Array.from(gpa),
        weights: null,
        features: null,
      },
    };
    expect(figureOf(metricNamed('pearson'), judged).value).toBeCloseTo(0.776, 3);
  });

  it('ranks of intelligence and hours of television of ten people correlate at −29/165 (worked example of many textbooks; from memory)', () => {
    const iq = Float64Array.of(106, 100, 86, 101, 99, 103, 97, 113, 112, 110);
    const hours = Float64Array.of(7, 27, 2, 50, 28, 29, 20, 12, 6, 17);
    expect(spearman(iq, hours)).toBeCloseTo(-29 / 165, 12);
  });

  it('a gain curve starts at nothing and ends at everything', () => {
    const gain = gainCurve(fawcett);
    expect([gain[0]?.x, gain[0]?.y, gain.at(-1)?.x, gain.at(-1)?.y]).toEqual([0, 0, 1, 1]);
    // The two best rows, a tenth of all, are two of the ten positive ones: a lift of 2.
    const tenth = gain.find(({ x }) => x === 0.1);
    expect((tenth?.y ?? 0) / (tenth?.x ?? 1)).toBeCloseTo(2, 12);
  });
});

describe('adjusted R²', () => {
  it('of least squares on Longley’s data is that of statsmodels 0.13.5, and undefined where features are not counted', () => {
    const { table } = readCsv(testFile('reference/ols-longley/data.csv'), { file: 'longley.csv' });
    const numbers = table.columns.map((column) =>
      column.kind === 'number' ? column.values : new Float64Array(),
    );
    const [truth = new Float64Array(), ...features] = numbers;
    const mean = (values: Float64Array) => values.reduce((a, b) => a + b, 0) / values.length;
    const { slopes } = leastSquares(features, truth);
    const predicted = truth.map((_, row) =>
      features.reduce((sum, x, i) => sum + at(slopes, i) * (at(x, row) - mean(x)), mean(truth)),
    );
    const judged = (count: number | null): Judged => ({
      kind: 'numbers',
      data: { truth, predicted, weights: null, features: count },
    });
    expect(figureOf(metricNamed('adjusted_r2'), judged(6)).value).toBeCloseTo(0.9924650076288254, 10);
    expect(figureOf(metricNamed('adjusted_r2'), judged(null))).toEqual({
      value: null,
      reason: 'the number of features is not known',
    });
  });
});
