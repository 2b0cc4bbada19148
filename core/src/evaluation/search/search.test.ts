import { describe, expect, it } from '@jest/globals';
import { seededRandom, type Random } from '../../foundation/random/random.js';
import type { Judged } from '../../metrics/judged.js';
import { metricNamed } from '../../metrics/registry.js';
import { modelFamilyOf } from '../../models/registry.js';
import { drawSettings } from './draw.js';
import { luckOf } from './luck.js';
import { fitsOf, halvingRounds, settingsThatGoOn } from './rounds.js';

const forest = modelFamilyOf({ kind: 'forest' });
const boosting = modelFamilyOf({ kind: 'boosting' });

describe('settings that a search draws', () => {
  const vary = [
    { key: 'learning_rate', settings: [0.01, 0.8] },
    { key: 'leaves', settings: [2, 15] },
    { key: 'penalty', settings: [0, 0.1, 1, 10] },
  ];
  const begun = { learning_rate: 0.1, leaves: 8, penalty: 1 };

  it('begin with the one that the model is asked for with, are different and within their ranges', () => {
    const drawn = drawSettings(boosting, vary, begun, 200, 3);
    expect(drawn).toHaveLength(200);
    expect(drawn[0]).toEqual(begun);
    expect(new Set(drawn.map((one) => JSON.stringify(one))).size).toBe(200);
    for (const { learning_rate: rate = 0, leaves = 0, penalty = 0 } of drawn) {
      expect(rate).toBeGreaterThanOrEqual(0.01);
      expect(rate).toBeLessThanOrEqual(0.8);
      expect(Number.isInteger(leaves) && leaves >= 2 && leaves <= 15).toBe(true);
      expect(penalty === 0 || (penalty >= 0.1 && penalty <= 10)).toBe(true);
    }
  });

  it('are even over orders of magnitude where a range is wide, with a nought as often as among the values', () => {
    const drawn = drawSettings(boosting, vary, begun, 200, 5);
    // The geometric mean of 0.01 and 0.8 halves them: between 40 and 60 % of 200, 2.8 deviations around a half.
    const low = drawn.filter((one) => (one['learning_rate'] ?? 0) < Math.sqrt(0.008)).length;
    expect(Math.abs(low - 100)).toBeLessThan(20);
    const noughts = drawn.filter((one) => one['penalty'] === 0).length;
    expect(Math.abs(noughts - 50)).toBeLessThan(18);
  });

  it('are the same for a seed, and others for another', () => {
    const of = (seed: number) =>
      drawSettings(forest, [{ key: 'depth', settings: [1, 24] }], { depth: 9 }, 5, seed);
    expect(of(1)).toEqual(of(1));
    expect(of(1)).not.toEqual(of(2));
  });

  it('are as many as there are, where more are asked for', () => {
    const drawn = drawSettings(forest, [{ key: 'depth', settings: [1, 4] }], { depth: 30 }, 50, 1);
    expect(drawn.map(({ depth }) => depth).sort()).toEqual([1, 2, 3, 30, 4]);
  });
});

describe('rounds of halving', () => {
  it('are by thirds, all settings on few rows first and the last on all rows', () => {
    expect(halvingRounds(27, 10_000)).toEqual([
      { share: 100 / 9, settings: 27 },
      { share: 100 / 3, settings: 9 },
      { share: 100, settings: 3 },
    ]);
    expect(fitsOf(halvingRounds(27, 10_000), 5)).toBe(5 * 39);
  });

  it('are fewer where a round would have too few rows to choose by, and four at most', () => {
    expect(halvingRounds(27, 200).map(({ share }) => Math.round(share))).toEqual([33, 100]);
    expect(halvingRounds(27, 100)).toEqual([{ share: 100, settings: 27 }]);
    expect(halvingRounds(200, 1e6)).toHaveLength(4);
  });
});

describe('settings that go on to a round', () => {
  const score = (place: number, round: number, own: number | null) => ({ place, round, score: own });

  it('are the first and the best of the round before', () => {
    const scores = [score(0, 0, 1), score(1, 0, 5), score(2, 0, 9), score(3, 0, 7), score(4, 0, null)];
    expect(settingsThatGoOn(scores, 1, 3)).toEqual([0, 2, 3]);
    expect(settingsThatGoOn(scores, 1, 9)).toEqual([0, 2, 3, 1]);
  });

  it('are none that an earlier round left behind, however well it did on fewer rows', () => {
    const scores = [score(0, 1, 1), score(1, 1, 5), score(2, 0, 9), score(3, 1, 4)];
    expect(settingsThatGoOn(scores, 2, 3)).toEqual([0, 1, 3]);
  });
});

describe('luck of the best setting', () => {
  const normal = (random: Random) =>
    Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());

  /** Settings whose predictions are the truth with errors of their own; of these the last has smaller ones. */
  function settingsOf(random: Random, rows: number, count: number, lastError: number): Judged[] {
    const truth = Float64Array.from({ length: rows }, () => normal(random));
    return Array.from({ length: count }, (_, s) => {
      const spread = s === count - 1 ? lastError : 1;
      const predicted = truth.map((value) => value + spread * normal(random));
      return { kind: 'numbers', data: { truth, predicted, weights: null, features: null } };
    });
  }
  const rmse = metricNamed('rmse');

  it('is what choosing among equals gains, and no lead is said', () => {
    const random = seededRandom(8);
    let [seen, expected, alarms] = [0, 0, 0];
    for (let trial = 0; trial < 40; trial++) {
      const luck = luckOf(settingsOf(random, 150, 30, 1), rmse, null, random);
      seen += (luck?.seen ?? NaN) / 40;
      expected += (luck?.expected ?? NaN) / 40;
      if ((luck?.lead?.low ?? 0) > 0) alarms++;
    }
    // All settings have an error of 1: the best seems to be better, and the corrected figure is nearer to it.
    expect(seen).toBeLessThan(0.93);
    expect(Math.abs(expected - 1)).toBeLessThan(0.3 * (1 - seen));
    expect(alarms).toBeLessThan(5);
  });

  it('is little where one setting is much better, and its lead is said', () => {
    const random = seededRandom(9);
    const luck = luckOf(settingsOf(random, 300, 20, 0.5), rmse, null, random);
    expect(luck?.luck).toBeLessThan(0.02);
    expect(luck?.lead?.low).toBeGreaterThan(0.3);
    expect(luck?.settings).toBe(20);
  });

  it('points the same way for a metric of which more is better', () => {
    const random = seededRandom(10);
    const labels = ['no', 'yes'];
    const truth = Int32Array.from({ length: 200 }, () => random.below(2));
    const settings = Array.from({ length: 40 }, (): Judged => {
      const predicted = truth.map((code) => (random.unit() < 0.6 ? code : 1 - code));
      return {
        kind: 'labels',
        data: { labels, truth, predicted, probabilities: null, positive: 1, weights: null },
      };
    });
    const luck = luckOf(settings, metricNamed('accuracy'), null, random);
    expect(luck?.seen).toBeGreaterThan(0.64);
    expect(luck?.expected).toBeLessThan((luck?.seen ?? 0) - 0.02);
    expect(luck?.luck).toBeCloseTo((luck?.seen ?? 0) - (luck?.expected ?? 0), 12);
  });

  it('draws groups whole: rows that repeat one another are not taken for many', () => {
    const random = seededRandom(12);
    const single = settingsOf(random, 40, 20, 1);
    const groups = Int32Array.from({ length: 400 }, (_, row) => Math.floor(row / 10));
    const repeated = single.map((one): Judged => {
      if (one.kind !== 'numbers') throw new Error('numbers were made');
      const often = (values: Float64Array) => Float64Array.from(groups, (group) => values[group] ?? NaN);
      return {
        ...one,
        data: { ...one.data, truth: often(one.data.truth), predicted: often(one.data.predicted) },
      };
    });
    const whole = luckOf(repeated, rmse, groups, seededRandom(1));
    const apart = luckOf(repeated, rmse, null, seededRandom(1));
    expect(whole?.luck).toBeCloseTo(luckOf(single, rmse, null, seededRandom(1))?.luck ?? NaN, 9);
    expect(apart?.luck).toBeLessThan(0.7 * (whole?.luck ?? 0));
  });

  it('is not told of a single setting, nor where no figure is defined', () => {
    const random = seededRandom(13);
    expect(luckOf(settingsOf(random, 50, 1, 1), rmse, null, random)).toBeNull();
    expect(luckOf(settingsOf(random, 50, 5, 1), metricNamed('accuracy'), null, random)).toBeNull();
  });
});
