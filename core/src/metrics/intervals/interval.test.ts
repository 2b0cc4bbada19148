import { describe, expect, it } from '@jest/globals';
import { testFile } from '../../../test/files.js';
import { readCsv } from '../../data/formats/csv/read.js';
import { at } from '../../foundation/numbers.js';
import { columnNamed } from '../../data/table/table.js';
import { delong, delongTest } from './delong.js';
import { intervalOf } from './interval.js';
import { pearson } from '../../data/profile/association.js';
import { figureOf, type Judged } from '../judged.js';
import { metricNamed } from '../registry.js';
import { wilson } from '../../foundation/statistics/wilson.js';

const numbers = (table: ReturnType<typeof readCsv>['table'], name: string): Float64Array => {
  const column = columnNamed(table, name);
  if (column.kind !== 'number') throw new Error(`${name} is not numeric`);
  return column.values;
};

describe('DeLong', () => {
  it('gives the area, variance and interval that R’s pROC 1.18.0 gives', () => {
    const { table } = readCsv(testFile('reference/delong/data.csv'), { file: 'data.csv' });
    const target = numbers(table, 'target');
    const { expected } = JSON.parse(new TextDecoder().decode(testFile('reference/delong/expected.json'))) as {
      expected: Record<'auc_first' | 'auc_second' | 'variance_first' | 'low' | 'high' | 'z' | 'p', number>;
    };
    const [first, second] = ['first', 'second'].map((name) => numbers(table, name));
    if (!first || !second) throw new Error('both scores are there');
    const estimate = delong(first, target, 1);
    expect(estimate?.area).toBeCloseTo(expected.auc_first, 9);
    expect(estimate?.variance).toBeCloseTo(expected.variance_first, 9);
    expect(estimate?.low).toBeCloseTo(expected.low, 9);
    expect(estimate?.high).toBeCloseTo(expected.high, 9);
    const test = delongTest(first, second, target, 1);
    expect(test?.second).toBeCloseTo(expected.auc_second, 9);
    expect(test?.z).toBeCloseTo(expected.z, 8);
    expect((test?.p ?? 0) / expected.p).toBeCloseTo(1, 7);
  });

  it('has no variance with fewer than two rows of a class, and no test of equal scores', () => {
    const scores = Float64Array.of(1, 2, 3, 4);
    expect(delong(scores, Int32Array.of(1, 0, 0, 0), 1)).toBeNull();
    expect(delongTest(scores, scores, Int32Array.of(1, 1, 0, 0), 1)).toBeNull();
  });
});

describe('Wilson', () => {
  // Newcombe, Statistics in Medicine 17 (1998), table I, the score method without continuity correction; from memory.
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('%d of %d as published by Newcombe (1998)', (hits, of, low, high) => {
    const interval = wilson(hits, of);
    expect(interval.low).toBeCloseTo(low, 4);
    expect(interval.high).toBeCloseTo(high, 4);
  });
});

describe('the interval of a metric', () => {
  const n = 200;
  const truth = Int32Array.from({ length: n }, (_, i) => i % 2);
  const predicted = truth.map((code, i) => (i % 5 === 0 ? 1 - code : code));
  const probability = Float64Array.from(
    truth,
    (code, i) => (code === 1 ? 0.7 : 0.3) + ((i * 37) % 100) / 400 - 0.12,
  );
  const judged: Judged = {
    kind: 'labels',
    data: {
      labels: ['no', 'yes'],
      truth,
      predicted,
      probabilities: [probability.map((p) => 1 - p), probability],
      positive: 1,
      weights: null,
    },
  };
  const groups = truth.map((_, i) => i % 12);

  it.each([
    ['accuracy', 'Wilson'],
    ['roc_auc', 'DeLong'],
    ['f1', 'bootstrap'],
    ['log_loss', 'bootstrap'],
  ])('of %s is found by %s', (key, method) => {
    expect(intervalOf(metricNamed(key), judged, null, { seed: 1 })).toHaveProperty('method', method);
  });

  it('draws whole groups where rows come in groups', () => {
    expect(intervalOf(metricNamed('accuracy'), judged, groups, { seed: 1 })).toHaveProperty(
      'method',
      'bootstrap of groups',
    );
  });

  it('could not be judged from fewer than ten groups', () => {
    const few = truth.map((_, i) => i % 9);
    expect(intervalOf(metricNamed('accuracy'), judged, few, { seed: 1 })).toEqual({
      low: null,
      high: null,
      reason: '9 groups are too few to judge by: at least 10 are needed',
    });
  });

  it('is judged from ten groups on', () => {
    const ten = truth.map((_, i) => i % 10);
    expect(intervalOf(metricNamed('accuracy'), judged, ten, { seed: 1 })).toHaveProperty(
      'method',
      'bootstrap of groups',
    );
  });

  it('is the same for the same seed and another for another', () => {
    const f1 = metricNamed('f1');
    expect(intervalOf(f1, judged, null, { seed: 5 })).toEqual(intervalOf(f1, judged, null, { seed: 5 }));
    expect(intervalOf(f1, judged, null, { seed: 5 })).not.toEqual(intervalOf(f1, judged, null, { seed: 6 }));
  });

  it('of a mean by bootstrap comes near the normal interval', () => {
    const errors = Float64Array.from({ length: 400 }, (_, i) => Math.sin(i * 12.9898) * 3);
    const data = { truth: new Float64Array(400), predicted: errors, weights: null, features: null };
    const interval = intervalOf(metricNamed('mean_error'), { kind: 'numbers', data }, null, { seed: 3 });
    const mean = errors.reduce((a, b) => a + b, 0) / 400;
    const se = Math.sqrt(errors.reduce((a, b) => a + (b - mean) ** 2, 0) / 399 / 400);
    expect(interval.low).toBeGreaterThan(mean - 2.3 * se);
    expect(interval.low).toBeLessThan(mean - 1.6 * se);
    expect(interval.high).toBeGreaterThan(mean + 1.6 * se);
    expect(at([interval.high ?? 0], 0)).toBeLessThan(mean + 2.3 * se);
  });

  it('is not given under row weights', () => {
    const weighted: Judged = {
      kind: 'labels',
      data: { ...judged.data, weights: new Float64Array(n).fill(2) },
    };
    expect(intervalOf(metricNamed('accuracy'), weighted, null, { seed: 1 }).low).toBeNull();
  });
});

describe('an interval that rows cannot give', () => {
  const labels = (truth: number[], chance: number[]): Judged => ({
    kind: 'labels',
    data: {
      labels: ['no', 'yes'],
      truth: Int32Array.from(truth),
      predicted: Int32Array.from(chance, (one) => Number(one >= 0.5)),
      probabilities: [Float64Array.from(chance, (one) => 1 - one), Float64Array.from(chance)],
      positive: 1,
      weights: null,
    },
  });

  it('is none of a perfect area: four rows show no variance', () => {
    const interval = intervalOf(metricNamed('roc_auc'), labels([0, 0, 1, 1], [0.1, 0.2, 0.8, 0.9]), null, {
      seed: 1,
    });
    expect(interval).toMatchObject({ low: null, reason: expect.stringContaining('show no variance') });
  });

  it('of correlations and logarithmic errors bears numbers of any size, and rows without weight', () => {
    const data = {
      truth: Float64Array.of(1e200, 2e200, 4e200),
      predicted: Float64Array.of(1e200, 3e200, 4e200),
      weights: null,
      features: null,
    };
    const small = {
      ...data,
      truth: data.truth.map((v) => v / 1e200),
      predicted: data.predicted.map((v) => v / 1e200),
    };
    const value = (of: typeof data) => figureOf(metricNamed('pearson'), { kind: 'numbers', data: of }).value;
    expect(value(data)).toBeCloseTo(value(small) ?? NaN, 12);
    expect(pearson(data.truth, data.predicted)).toBeCloseTo(value(small) ?? NaN, 12);
    // One over the largest of these is infinite.
    const least = { ...data, truth: Float64Array.of(1e-310, 2e-310, 3e-310) };
    expect(figureOf(metricNamed('pearson'), { kind: 'numbers', data: least }).value).toBeNull();
    const weighted = {
      ...small,
      truth: Float64Array.of(1, 2, -5),
      weights: Float64Array.of(1, 1, 0),
    };
    expect(figureOf(metricNamed('rmsle'), { kind: 'numbers', data: weighted }).value).toBeGreaterThan(0);
    expect(
      figureOf(metricNamed('rmsle'), { kind: 'numbers', data: { ...weighted, weights: null } }).value,
    ).toBeNull();
  });
});
