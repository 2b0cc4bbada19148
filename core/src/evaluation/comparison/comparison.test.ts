import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { testFile } from '../../../test/files.js';
import { labelCase, referenceCase } from '../../../test/reference-case.js';
import { figureOf, resampled } from '../../metrics/judged.js';
import { metricsFor } from '../../metrics/registry.js';
import { readCsv } from '../../data/formats/csv/read.js';
import { columnNamed } from '../../data/table/table.js';
import { compareLabels, compareNumbers } from './compare.js';
import { mcnemar } from './mcnemar.js';
import { pooled } from './pooled.js';
import { correctedResampledT, summariseFolds } from './over-folds.js';

const more = JSON.parse(new TextDecoder().decode(testFile('reference/more.json'))) as {
  mcnemar: { both: [[number, number], [number, number]]; p: number };
  resampled_t: { first: number[]; second: number[]; t: number; p: number };
};

describe('McNemar’s exact test', () => {
  it('gives the chance that statsmodels 0.13 gives', () => {
    const [[both, onlyFirst], [onlySecond, neither]] = more.mcnemar.both;
    const rows = [
      ...Array.from({ length: both }, () => [0, 0]),
      ...Array.from({ length: onlyFirst }, () => [0, 1]),
      ...Array.from({ length: onlySecond }, () => [1, 0]),
      ...Array.from({ length: neither }, () => [1, 1]),
    ];
    const test = mcnemar(
      rows.map(() => 0),
      rows.map(([a]) => a ?? 0),
      rows.map(([, b]) => b ?? 0),
    );
    expect(test).toEqual({ onlyFirst, onlySecond, p: expect.closeTo(more.mcnemar.p, 12) });
  });

  it('finds no difference where both are right on the same rows', () => {
    expect(mcnemar([0, 1, 1], [0, 1, 0], [0, 1, 2]).p).toBe(1);
  });
});

describe('figures over folds', () => {
  it('are the mean, deviation and standard error of the folds', () => {
    const figures = [0.7, 0.8, 0.9].map((value) => ({ value }));
    const summary = summariseFolds(figures);
    expect(summary).toEqual({
      folds: 3,
      mean: expect.closeTo(0.8, 12),
      sd: expect.closeTo(0.1, 12),
      se: expect.closeTo(0.1 / Math.sqrt(3), 12),
    });
    expect(summariseFolds([{ value: 1 }, { value: null, reason: 'no row is positive' }])).toEqual({
      mean: null,
      reason: 'fold 2: no row is positive',
    });
  });

  it('the corrected test of a difference is Nadeau and Bengio’s, by the t of scipy 1.10.1', () => {
    const { first, second, t, p } = more.resampled_t;
    const test = correctedResampledT(first, second, 1 / 9);
    expect(test).toMatchObject({ t: expect.closeTo(t, 10), p: expect.closeTo(p, 10), df: 9 });
    expect(correctedResampledT([1, 2], [0, 1], 1 / 9)).toEqual({
      value: null,
      reason: 'the differences do not vary over the folds',
    });
  });
});

describe('predictions of all folds at once', () => {
  it('are those of the rows that the folds part', () => {
    for (const name of ['binary', 'multiclass-wine', 'regression', 'binary-ties-weights']) {
      const { judged, expected } = referenceCase(name);
      const n = judged.data.truth.length;
      const folds = [0, 1, 2].map((fold) =>
        resampled(
          judged,
          Int32Array.from({ length: n }, (_, row) => row).filter((row) => row % 3 === fold),
        ),
      );
      for (const metric of metricsFor(expected.task)) {
        const [one, all] = [figureOf(metric, pooled(folds)), figureOf(metric, judged)];
        if (all.value === null) expect(one).toEqual(all);
        else expect(one.value).toBeCloseTo(all.value, 9);
      }
    }
    expect(() => pooled([referenceCase('binary').judged, referenceCase('regression').judged])).toThrow(
      'the folds are of different kinds',
    );
  });
});

describe('two files of predictions', () => {
  it('of classes: agreement, the rows that differ, what is confused, and the tests', () => {
    const data = labelCase('binary');
    const other = {
      ...data,
      predicted: data.predicted.map((code, row) => (row % 10 === 0 ? 1 - code : code)),
    };
    const found = compareLabels(data, other, data.truth);
    const n = data.truth.length;
    expect(found.differs.every((row) => row % 10 === 0)).toBe(true);
    expect(found.agreement).toBeCloseTo(1 - Math.ceil(n / 10) / n, 12);
    expect(found.confused.reduce((sum, pair) => sum + pair.rows, 0)).toBe(found.differs.length);
    expect(found.mcnemar?.onlyFirst).toBeGreaterThan(found.mcnemar?.onlySecond ?? 0);
    expect(found.delong).toBeNull();
    expect(compareLabels(data, other, null).mcnemar).toBeNull();
  });

  it('of numbers: the difference of the errors, with an interval that turns with the files', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 5, maxLength: 40 }), (list) => {
        const truth = Float64Array.from(list);
        const a = truth.map((value, i) => value + (i % 3));
        const b = truth.map((value, i) => value - (i % 4));
        const one = compareNumbers(a, b, truth, 4);
        const two = compareNumbers(b, a, truth, 4);
        expect(one.rmse?.difference).toBeCloseTo(-(two.rmse?.difference ?? NaN), 10);
        expect(one.mae?.low).toBeCloseTo(-(two.mae?.high ?? NaN), 10);
        expect(one.mae?.low).toBeLessThanOrEqual(one.mae?.high ?? NaN);
        expect(one.differs.length).toBe(a.filter((value, i) => value !== b[i]).length);
      }),
      { numRuns: 20 },
    );
  });
});

describe('differences over folds that do not vary', () => {
  it('have no test, though rounding makes them differ in the last digit', () => {
    const first = [0.81, 0.79, 0.83, 0.77, 0.8];
    const second = first.map((value, i) => value - 0.1 + 2e-16 * (i % 2));
    expect(new Set(first.map((value, i) => value - (second[i] ?? 0))).size).toBeGreaterThan(1);
    expect(correctedResampledT(first, second, 0.25)).toEqual({
      value: null,
      reason: 'the differences do not vary over the folds',
    });
  });
});

describe('two files of probabilities', () => {
  const { expected } = JSON.parse(new TextDecoder().decode(testFile('reference/delong/expected.json'))) as {
    expected: { p: number };
  };
  const { table } = readCsv(testFile('reference/delong/data.csv'), { file: 'data.csv' });
  const numbers = (name: string) => {
    const column = columnNamed(table, name);
    return column.kind === 'number' ? column.values : new Float64Array();
  };
  const truth = Int32Array.from(numbers('target'));
  const file = (name: string, positive: number | null) => ({
    labels: ['no', 'yes'],
    predicted: Int32Array.from(numbers(name), (score) => Number(score > 0.5)),
    probabilities: [numbers(name).map((score) => 1 - score), numbers(name)],
    positive,
  });

  it('have their areas compared by DeLong’s test, as R’s pROC 1.18.0 does', () => {
    const found = compareLabels(file('first', 1), file('second', 1), truth);
    expect((found.delong?.p ?? 0) / expected.p).toBeCloseTo(1, 7);
  });

  it('of which no class is positive, or without probabilities, have no such test', () => {
    expect(compareLabels(file('first', null), file('second', null), truth).delong).toBeNull();
    const bare = { ...file('second', 1), probabilities: null };
    expect(compareLabels(file('first', 1), bare, truth).delong).toBeNull();
  });
});

describe('two files of numbers', () => {
  it('differ by the root of the mean of the squared differences', () => {
    const found = compareNumbers(Float64Array.of(1, 2, 5), Float64Array.of(2, 4, 5), null);
    expect(found.rmsDifference).toBeCloseTo(Math.sqrt((1 + 4 + 0) / 3), 12);
    expect(found.largestDifference).toBe(2);
    expect(found.agreement).toBeCloseTo(1 / 3, 12);
  });

  it('have the difference of their own figures, worked out by hand', () => {
    // Errors 1, −2, 3, 0 and 0, 0, 1, −2.
    const truth = Float64Array.of(5, 6, 7, 8);
    const found = compareNumbers(Float64Array.of(6, 4, 10, 8), Float64Array.of(5, 6, 8, 6), truth, 3);
    expect(found.rmse?.difference).toBeCloseTo(Math.sqrt(14 / 4) - Math.sqrt(5 / 4), 12);
    expect(found.mae?.difference).toBeCloseTo(6 / 4 - 3 / 4, 12);
  });

  it('summed over two folds have the deviation with n − 1', () => {
    expect(summariseFolds([{ value: 1 }, { value: 3 }])).toMatchObject({
      mean: 2,
      sd: Math.SQRT2,
      se: 1,
    });
  });
});

describe('what there is little of', () => {
  it('no rows agree, and nothing is compared', () => {
    const none = compareNumbers(new Float64Array(), new Float64Array(), new Float64Array());
    expect(none).toMatchObject({
      n: 0,
      agreement: 1,
      rmsDifference: 0,
      largestDifference: 0,
      rmse: null,
      mae: null,
    });
  });

  it('of one row the figures differ, and nothing is said of chance', () => {
    const one = compareNumbers(Float64Array.of(3), Float64Array.of(1), Float64Array.of(2));
    expect(one).toMatchObject({ n: 1, agreement: 0, rmsDifference: 2, largestDifference: 2, rmse: null });
  });

  it('no folds have no mean, one fold has no deviation', () => {
    expect(summariseFolds([])).toEqual({ mean: null, reason: 'there are no folds' });
    expect(summariseFolds([{ value: 0.5 }])).toEqual({ folds: 1, mean: 0.5, sd: null, se: null });
    expect(summariseFolds([{ value: 0.5 }, { value: null, reason: 'no row' }])).toEqual({
      mean: null,
      reason: 'fold 2: no row',
    });
  });

  it('one fold, other folds, or differences that never vary have no test', () => {
    expect(correctedResampledT([0.5], [0.4], 0.25)).toMatchObject({ value: null });
    expect(correctedResampledT([0.5, 0.6], [0.4], 0.25)).toMatchObject({ value: null });
    expect(correctedResampledT([0.5, 0.6], [0.4, 0.5], 0.25)).toEqual({
      value: null,
      reason: 'the differences do not vary over the folds',
    });
  });

  it('folds of which some have weights and others have none are not joined', () => {
    const fold = (weights: Float64Array | null) => ({
      kind: 'numbers' as const,
      data: { truth: Float64Array.of(1, 2), predicted: Float64Array.of(1, 3), weights, features: null },
    });
    const weighted = fold(Float64Array.of(1, 2));
    expect(pooled([fold(null), fold(null)]).data.weights).toBeNull();
    expect(pooled([weighted, weighted]).data.weights).toEqual(Float64Array.of(1, 2, 1, 2));
    expect(() => pooled([weighted, fold(null)])).toThrow('of different kinds');
    expect(() => pooled([])).toThrow('there are no folds');
  });
});
