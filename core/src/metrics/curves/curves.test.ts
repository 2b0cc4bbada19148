import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { labelCase, referenceCase } from '../../../test/reference-case.js';
import { at } from '../../foundation/numbers.js';
import { byClass, confusedPairs } from '../by-class.js';
import { calibrationTable } from './calibration.js';
import { bestThreshold, cheapestThreshold, rocCurve, thresholdTable } from './curves.js';
import { figureOf } from '../judged.js';
import { areaOf, rankingOf } from './ranking.js';
import type { LabelData } from '../metric.js';
import { metricNamed, metricsFor } from '../registry.js';
import { bySubgroup } from '../subgroups.js';

const tasks = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 1 })), {
    minLength: 4,
    maxLength: 60,
  })
  .map((rows): LabelData => {
    const p = Float64Array.from(rows, ([score]) => score / 20);
    return {
      labels: ['no', 'yes'],
      positive: 1,
      truth: Int32Array.from(rows, ([, truth]) => truth),
      predicted: Int32Array.from(rows, ([score]) => (score >= 10 ? 1 : 0)),
      probabilities: [p.map((x) => 1 - x), p],
      weights: null,
    };
  });
/** The same task with the labels that a threshold gives. */
const labelledFrom = (data: LabelData, threshold: number): LabelData => ({
  ...data,
  predicted: Int32Array.from(data.probabilities?.[1] ?? [], (p) => (p >= threshold ? 1 : 0)),
});

describe('the threshold table', () => {
  it('gives at each threshold the confusion of the labels that it makes', () => {
    fc.assert(
      fc.property(tasks, (data) => {
        for (const row of thresholdTable(data)) {
          const labels = labelledFrom(data, row.threshold).predicted;
          const count = (truth: number, predicted: number) =>
            labels.filter((label, i) => label === predicted && data.truth[i] === truth).length;
          expect(row).toMatchObject({ tp: count(1, 1), fp: count(0, 1), fn: count(1, 0), tn: count(0, 0) });
        }
      }),
    );
  });

  it('and the area under its curve is the area of the ranking', () => {
    fc.assert(
      fc.property(tasks, (data) => {
        fc.pre(new Set(data.truth).size === 2);
        const points = rocCurve(data);
        let area = 0;
        for (let i = 1; i < points.length; i++) {
          const [a, b] = [at(points, i - 1), at(points, i)];
          area += ((b.x - a.x) * (a.y + b.y)) / 2;
        }
        expect(area).toBeCloseTo(figureOf(metricNamed('roc_auc'), { kind: 'labels', data }).value ?? NaN, 10);
      }),
    );
  });

  it('leads to the best threshold of a metric: none gives more', () => {
    fc.assert(
      fc.property(tasks, (data) => {
        fc.pre(new Set(data.truth).size === 2);
        for (const key of ['accuracy', 'balanced_accuracy', 'f1', 'mcc'] as const) {
          const best = bestThreshold(data, key);
          const figures = thresholdTable(data).map(
            ({ threshold }) =>
              figureOf(metricNamed(key), { kind: 'labels', data: labelledFrom(data, threshold) }).value ??
              -Infinity,
          );
          expect(best?.value).toBeCloseTo(Math.max(...figures), 10);
        }
      }),
    );
  });

  it('and to the cheapest: where missing a positive row costs all, everything is called positive', () => {
    const data = labelCase('binary');
    const all = cheapestThreshold(data, { tp: 0, tn: 0, fp: 1, fn: 1e9 });
    const none = cheapestThreshold(data, { tp: 0, tn: 0, fp: 1e9, fn: 0 });
    expect(thresholdTable(data).find((row) => row.threshold === all?.threshold)?.fn).toBe(0);
    expect(none).toEqual({ threshold: Infinity, cost: 0 });
  });

  it('is empty where only labels were predicted', () => {
    const labelsAlone = { ...labelCase('binary'), probabilities: null };
    expect(thresholdTable(labelsAlone)).toEqual([]);
    expect(bestThreshold(labelsAlone, 'f1')).toBeNull();
  });
});

describe('calibration', () => {
  it('puts every row into one run, and its error is nought where shares are as predicted', () => {
    const p = Float64Array.from({ length: 100 }, (_, i) => (i < 50 ? 0.2 : 0.8));
    const truth = Int32Array.from({ length: 100 }, (_, i) => (i % 50 < (i < 50 ? 10 : 40) ? 1 : 0));
    const data: LabelData = {
      labels: ['no', 'yes'],
      positive: 1,
      truth,
      predicted: truth,
      probabilities: [p.map((x) => 1 - x), p],
      weights: null,
    };
    const table = calibrationTable(data);
    expect(table.map((run) => run.rows)).toEqual([0, 0, 50, 0, 0, 0, 0, 0, 50, 0]);
    expect(table[2]).toMatchObject({ mean: expect.closeTo(0.2, 12), positive: 0.2 });
    const error = (over: Partial<LabelData>) =>
      figureOf(metricNamed('calibration_error'), { kind: 'labels', data: { ...data, ...over } }).value;
    expect(error({})).toBeCloseTo(0, 12);
    expect(error({ truth: truth.map(() => 1) })).toBeCloseTo(0.5, 12);
  });
});

describe('figures by class and by subgroup', () => {
  it('of a class are those of the binary task of that class against the rest', () => {
    const data = labelCase('multiclass-wine');
    byClass(data).forEach(({ label, rows, figures }, code) => {
      const own = data.probabilities?.[code] ?? new Float64Array();
      const binary: LabelData = {
        labels: ['rest', label],
        positive: 1,
        truth: data.truth.map((c) => (c === code ? 1 : 0)),
        predicted: data.predicted.map((c) => (c === code ? 1 : 0)),
        probabilities: [own.map((p) => 1 - p), own],
        weights: data.weights,
      };
      expect(rows).toBe(binary.truth.filter((c) => c === 1).length);
      for (const [key, figure] of Object.entries(figures))
        expect(figure.value).toBeCloseTo(
          figureOf(metricNamed(key), { kind: 'labels', data: binary }).value ?? NaN,
          12,
        );
    });
  });

  it('say which classes are confused most', () => {
    const data = labelCase('multiclass-iris');
    const pairs = confusedPairs(data);
    expect(pairs.reduce((n, pair) => n + pair.rows, 0)).toBe(
      data.truth.filter((code, row) => code !== data.predicted[row]).length,
    );
    expect(pairs.every((pair, i) => i === 0 || pair.rows <= at(pairs, i - 1).rows)).toBe(true);
  });

  it('of subgroups: counts add up, and shares of rows are means by rows', () => {
    const { judged } = referenceCase('binary');
    const codes = Int32Array.from({ length: judged.data.truth.length }, (_, i) => (i % 7) % 3);
    const groups = bySubgroup(judged, { labels: ['a', 'b', 'c'], codes }, metricsFor('binary'));
    const n = judged.data.truth.length;
    const mean = groups.reduce(
      (sum, group) => sum + (group.rows / n) * (group.figures['accuracy']?.value ?? NaN),
      0,
    );
    expect(mean).toBeCloseTo(figureOf(metricNamed('accuracy'), judged).value ?? NaN, 12);
  });
});

describe('a ranking', () => {
  it('of the same scores with another truth, or another positive class, is another', () => {
    const scores = Float64Array.of(0.1, 0.4, 0.6, 0.9);
    const area = (truth: Int32Array, label: number) => areaOf(rankingOf(scores, truth, label, null));
    const truth = Int32Array.of(0, 0, 1, 1);
    expect(area(truth, 1)).toBe(1);
    expect(area(truth, 0)).toBe(0);
    expect(area(Int32Array.of(1, 0, 1, 0), 1)).toBe(0.25);
    expect(area(truth, 1)).toBe(1);
  });
});
