import { describe, expect, it } from '@jest/globals';
import type { AnswerKey } from '../files/judge.js';
import { metricNamed } from '../../metrics/registry.js';
import { floorOf } from './floor.js';

const n = 400;
const rows = Int32Array.from({ length: n }, (_, row) => row);
/** One row in four is positive. */
const key: AnswerKey = {
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  classes: rows.map((row) => Number(row % 4 === 0)),
  values: null,
  groups: null,
  feedback: new Uint8Array(n),
};

describe('the floor of a metric', () => {
  it('of log loss is that of the class shares, by its definition', () => {
    const entropy = -(0.25 * Math.log(0.25) + 0.75 * Math.log(0.75));
    expect(floorOf(metricNamed('log_loss'), key, rows).constant).toBeCloseTo(entropy, 9);
  });

  it('of accuracy is the share of the commonest class', () => {
    expect(floorOf(metricNamed('accuracy'), key, rows).constant).toBe(0.75);
  });

  it('counts the classes of the rows that are scored, and of no others', () => {
    const half = rows.filter((row) => row % 2 === 0);
    expect(floorOf(metricNamed('accuracy'), key, half).constant).toBe(0.5);
    expect(floorOf(metricNamed('log_loss'), key, half).constant).toBeCloseTo(Math.LN2, 9);
  });

  it('of random files lies 2.58 standard deviations above what they have on average', () => {
    // Of labels in random order the Matthews correlation has the mean 0 and the variance 1 / (n − 1).
    const { constant, random } = floorOf(metricNamed('mcc'), key, rows);
    expect(constant).toBeNull();
    expect(random).toBeGreaterThan((2.58 * 0.8) / Math.sqrt(n - 1));
    expect(random).toBeLessThan((2.58 * 1.25) / Math.sqrt(n - 1));
    // Of random chances the area under the curve has the mean 1/2 and the variance of Mann and Whitney.
    const deviation = Math.sqrt((n + 1) / (12 * 100 * 300));
    const area = floorOf(metricNamed('roc_auc'), key, rows).random ?? 0;
    expect((area - 0.5) / (2.58 * deviation)).toBeGreaterThan(0.8);
    expect((area - 0.5) / (2.58 * deviation)).toBeLessThan(1.3);
  });

  // Marks rest on them: they may not differ from one version to the next.
  it.each([
    ['mcc', 400, 0.13961725589349386],
    ['roc_auc', 400, 0.5873468397617754],
    ['mcc', 20_000, 0.020804534474282894],
    ['mcc', 20_004, 0.01476829114592361],
  ])('of %s on %d rows never changes', (metric, count, random) => {
    const many = Int32Array.from({ length: count }, (_, row) => row);
    const own = {
      ...key,
      classes: many.map((row) => Number(row % 4 === 0)),
      feedback: new Uint8Array(count),
    };
    expect(floorOf(metricNamed(metric), own, many).random).toBeCloseTo(random, 12);
  });
});
