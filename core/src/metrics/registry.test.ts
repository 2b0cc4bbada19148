import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { referenceCase } from '../../test/reference-case.js';
import type { Task } from '../data/table/roles.js';
import { at } from '../foundation/numbers.js';
import { confusionCounts } from './confusion.js';
import { figureOf, resampled } from './judged.js';
import { metricNamed, METRICS, metricsFor } from './registry.js';

const CASES = ['binary', 'binary-ties-weights', 'multiclass-wine', 'multiclass-iris', 'regression'];

describe('metrics equal the values of the reference libraries', () => {
  for (const name of CASES) {
    const { judged, expected } = referenceCase(name);
    for (const [key, value] of Object.entries(expected.expected)) {
      it(`${name}: ${key} as ${expected.source} gives it`, () => {
        if (key === 'confusion' || typeof value !== 'number') {
          expect(judged.kind === 'labels' ? confusionCounts(judged.data) : null).toEqual(value);
          return;
        }
        const figure = figureOf(metricNamed(key), judged);
        expect(figure).toHaveProperty('value', expect.any(Number));
        const scale = Math.max(1, Math.abs(value));
        expect(Math.abs((figure.value ?? NaN) - value) / scale).toBeLessThan(expected.tolerance);
      });
    }
  }
});

describe('every metric', () => {
  const binary = referenceCase('binary').judged;
  const numbers = referenceCase('regression').judged;
  const judgedFor = (task: Task) =>
    task === 'regression' ? numbers : task === 'binary' ? binary : referenceCase('multiclass-iris').judged;

  it('has no value of predictions of the other sort, and says why', () => {
    expect(figureOf(metricNamed('accuracy'), numbers)).toEqual({
      value: null,
      reason: 'it judges classes, not numbers',
    });
    expect(figureOf(metricNamed('rmse'), binary)).toEqual({
      value: null,
      reason: 'it judges numbers, not classes',
    });
  });

  it('has a key of its own and says what it is and where it comes from', () => {
    expect(new Set(METRICS.map((metric) => metric.key)).size).toBe(METRICS.length);
    for (const metric of METRICS) {
      expect(metric.definition).not.toBe('');
      expect(metric.source).not.toBe('');
      expect(metric.tasks.length).toBeGreaterThan(0);
    }
  });

  it.each(METRICS.filter((metric) => !metric.needsFeatures).map((metric) => [metric.key, metric] as const))(
    '%s does not depend on the order of rows',
    (_, metric) => {
      for (const task of metric.tasks) {
        const judged = judgedFor(task);
        const rows = Int32Array.from(judged.data.truth.keys()).reverse();
        expect(figureOf(metric, resampled(judged, rows)).value).toBeCloseTo(
          figureOf(metric, judged).value ?? NaN,
          9,
        );
      }
    },
  );

  it.each(metricsFor('binary').map((metric) => [metric.key, metric] as const))(
    '%s: a weight of 2 equals a repeated row',
    (_, metric) => {
      if (binary.kind !== 'labels') throw new Error('the case is one of labels');
      const n = binary.data.truth.length;
      const twice = Int32Array.from({ length: n + 100 }, (_, i) => (i < n ? i : i - n));
      const weights = Float64Array.from({ length: n }, (_, i) => (i < 100 ? 2 : 1));
      const weighted = figureOf(metric, { kind: 'labels', data: { ...binary.data, weights } });
      expect(weighted.value).toBeCloseTo(figureOf(metric, resampled(binary, twice)).value ?? NaN, 9);
    },
  );
});

describe('undefined figures', () => {
  const none = { labels: ['a', 'b'], positive: 1, probabilities: null, weights: null };
  const allNegative = { ...none, truth: Int32Array.of(0, 0), predicted: Int32Array.of(0, 0) };

  it.each([
    ['precision', 'no row was predicted positive'],
    ['recall', 'no row is positive'],
    ['f1', 'no row is positive or was predicted so'],
    ['kappa', 'all rows are of one class and were predicted so'],
    ['mcc', 'truth or prediction has only one class'],
    ['roc_auc', 'no probabilities were given'],
  ])('%s is null with a reason, not 0', (key, reason) => {
    expect(figureOf(metricNamed(key), { kind: 'labels', data: allNegative })).toEqual({
      value: null,
      reason,
    });
  });

  it('R² is undefined where the truth does not vary, and MAPE where a true value is 0', () => {
    const constant = {
      truth: Float64Array.of(0, 0),
      predicted: Float64Array.of(1, 2),
      weights: null,
      features: null,
    };
    expect(figureOf(metricNamed('r2'), { kind: 'numbers', data: constant }).value).toBeNull();
    expect(figureOf(metricNamed('mape'), { kind: 'numbers', data: constant }).value).toBeNull();
  });

  it('a metric of numbers does not judge classes', () => {
    expect(figureOf(metricNamed('rmse'), { kind: 'labels', data: allNegative }).value).toBeNull();
  });

  it('an unknown key is an error that names it', () => {
    expect(() => metricNamed('cleverness')).toThrow('There is no metric “cleverness”.');
  });
});

describe('the area under the ROC curve', () => {
  it('does not change under a monotone transform of the scores', () => {
    const { judged } = referenceCase('binary');
    if (judged.kind !== 'labels' || !judged.data.probabilities) throw new Error('the case has probabilities');
    const { data } = judged;
    const [, scores] = judged.data.probabilities;
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 8, noNaN: true }), (power) => {
        const bent = at([scores ?? new Float64Array()], 0).map((p) => p ** power);
        const figure = figureOf(metricNamed('roc_auc'), {
          kind: 'labels',
          data: { ...data, probabilities: [bent.map((p) => 1 - p), bent] },
        });
        expect(figure.value).toBeCloseTo(figureOf(metricNamed('roc_auc'), judged).value ?? NaN, 6);
      }),
      { numRuns: 20 },
    );
  });
});
