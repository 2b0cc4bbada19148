import { describe, expect, it } from '@jest/globals';
import type { Judged } from '../../metrics/judged.js';
import { metricNamed } from '../../metrics/registry.js';
import { gridOf, mostOfOneRow } from './grid.js';

const truth = Int32Array.from({ length: 200 }, (_, row) => Number(row % 2 === 0));
const judged = (probabilities: Float64Array[] | null): Judged => ({
  kind: 'labels',
  data: { labels: ['no', 'yes'], truth, predicted: truth, probabilities, positive: 1, weights: null },
});
const ROC = [Float64Array.from(truth, (code) => 1 - code), Float64Array.from(truth)];

describe('the steps of a metric', () => {
  it('follow from it alone, whatever was asked before on the same rows', () => {
    const step = (key: string, chances: Float64Array[] | null = null) =>
      gridOf(metricNamed(key), judged(chances), metricNamed(key).better === 'higher' ? 0.5 : 0.25).step;
    const [accuracy, mcc] = [step('accuracy'), step('mcc')];
    expect(accuracy).toBe(0.5 / Math.round(0.5 / accuracy));
    expect(mcc).not.toBe(accuracy);
    expect([step('accuracy'), step('mcc')]).toEqual([accuracy, mcc]);
    // Probabilities can be nearer to the truth than labels.
    expect(step('brier', ROC)).toBeGreaterThan(0);
    expect(step('accuracy', ROC)).toBeGreaterThan(0);
  });

  it('of numbers and of rare classes never changes: what a class was shown rests on it', () => {
    const values = Float64Array.from({ length: 60 }, (_, row) => (row * 7) % 31);
    const numbers: Judged = {
      kind: 'numbers',
      data: {
        truth: values,
        predicted: values.map((y, row) => y + (row % 5) - 2),
        weights: null,
        features: null,
      },
    };
    const rare = Int32Array.from({ length: 90 }, (_, row) => Number(row % 9 === 0));
    const uneven: Judged = {
      kind: 'labels',
      data: {
        labels: ['no', 'yes'],
        truth: rare,
        predicted: rare.map((code, row) => (row % 10 === 0 ? 1 - code : code)),
        probabilities: null,
        positive: 1,
        weights: null,
      },
    };
    expect([
      gridOf(metricNamed('rmse'), numbers, 9).step,
      gridOf(metricNamed('r2'), numbers, 0).step,
      gridOf(metricNamed('f1'), uneven, 0.2).step,
    ]).toEqual([9 / 4, 1 / 3, 4 / 15]);
  });
});

describe('what one row can change', () => {
  it('of a mean absolute error is four standard deviations over the rows, where its prediction is far off', () => {
    // By hand: 10 … 90 have the mean 50 and the variance 2000/3; their ends are at 50 ± 2 s, and 1000 is above both.
    const truth = Float64Array.from({ length: 9 }, (_, row) => 10 * (row + 1));
    const predicted = truth.map((y, row) => (row === 4 ? 1000 : y));
    const most = mostOfOneRow(metricNamed('mae'), {
      kind: 'numbers',
      data: { truth, predicted, weights: null, features: null },
    });
    expect(most).toBeCloseTo((4 * Math.sqrt(2000 / 3)) / 9, 9);
  });
});
