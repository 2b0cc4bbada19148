import { describe, expect, it } from '@jest/globals';
import type { AnswerKey } from '../check/judge.js';
import { metricNamed } from '../metrics/registry.js';
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
});
