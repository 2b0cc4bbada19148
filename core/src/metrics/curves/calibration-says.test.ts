import { describe, expect, it } from '@jest/globals';
import { calibrationSays } from './calibration-says.js';
import type { LabelData } from '../metric.js';

const dataOf = (probabilities: readonly number[], truth: readonly number[]): LabelData => ({
  labels: ['no', 'yes'],
  truth: Int32Array.from(truth),
  predicted: Int32Array.from(probabilities, (p) => (p >= 0.5 ? 1 : 0)),
  probabilities: [Float64Array.from(probabilities, (p) => 1 - p), Float64Array.from(probabilities)],
  positive: 1,
  weights: null,
});
const times = <T>(n: number, of: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => of(i));

describe('calibration in words', () => {
  it('is Spiegelhalter’s z, worked by hand', () => {
    // Of ten rows at 0.1 two are positive, of ten at 0.8 eight: (0.8 · 2 − 0.8 · 1) / √(10 · 0.64 · 0.09 + 10 · 0.36 · 0.16).
    const p = times(20, (i) => (i < 10 ? 0.1 : 0.8));
    const truth = times(20, (i) => (i < 10 ? Number(i < 2) : Number(i < 18)));
    const z = 0.8 / Math.sqrt(10 * 0.64 * 0.09 + 10 * 0.36 * 0.16);
    expect(z).toBeCloseTo(0.745, 3);
    expect(calibrationSays(dataOf(p, truth))).toMatchObject({
      outcome: 'holds',
      measured: expect.stringContaining('z 0.745, p 0.46 on 20 rows'),
    });
  });

  it.each([
    ['too low overall', 0.3, 0.6, 'Probabilities are too low overall'],
    ['too high overall', 0.6, 0.3, 'Probabilities are too high overall'],
  ])('says %s', (_, p, share, words) => {
    const said = calibrationSays(
      dataOf(
        times(200, () => p),
        times(200, (i) => Number(i < 200 * share)),
      ),
    );
    expect(said).toMatchObject({ outcome: 'fails', message: words });
  });

  it.each([
    ['too extreme', 0.05, 0.25],
    ['too cautious', 0.4, 0.1],
  ])('says %s where the mean is right', (words, low, share) => {
    // As many rows at 1 − p, of which as many are positive the other way round.
    const p = times(200, (i) => (i < 100 ? low : 1 - low));
    const truth = times(200, (i) => Number(i < 100 ? i < 100 * share : i >= 100 + 100 * share));
    expect(calibrationSays(dataOf(p, truth))).toMatchObject({
      outcome: 'fails',
      message: expect.stringContaining(words),
    });
  });

  it('judges groups as wholes: rows that agree within a group are one piece of evidence', () => {
    const n = 240;
    const groups = Int32Array.from(times(n, (row) => row % 12));
    // Seven of twelve groups are all positive, at a probability of 0.35.
    const data = dataOf(
      times(n, () => 0.35),
      times(n, (row) => Number(row % 12 < 7)),
    );
    expect(calibrationSays(data)?.outcome).toBe('fails');
    expect(calibrationSays(data, groups)?.outcome).toBe('holds');
    expect(
      calibrationSays(
        data,
        groups.map((group) => group % 6),
      ),
    ).toMatchObject({
      outcome: 'unsure',
      measured: 'rows come in 6 groups; at least 10 are needed',
    });
  });

  it('that are wrong by the same in every group are found', () => {
    const groups = Int32Array.from(times(40, (row) => row % 20));
    expect(
      calibrationSays(
        dataOf(
          times(40, () => 0.1),
          times(40, () => 1),
        ),
        groups,
      )?.outcome,
    ).toBe('fails');
  });

  it('of certainties is disproved by one miss, and without probabilities nothing is said', () => {
    expect(calibrationSays(dataOf([0, 1, 1], [0, 1, 1]))?.outcome).toBe('holds');
    expect(calibrationSays(dataOf([0, 1, 1], [1, 1, 1]))?.outcome).toBe('fails');
    expect(calibrationSays({ ...dataOf([0.5], [1]), probabilities: null })).toBeNull();
  });
});
