import { describe, expect, it } from '@jest/globals';
import { judgeAgainst, type AnswerKey } from '../files/judge.js';
import type { Predictions } from '../files/reader.js';
import { figureOf } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';
import { METRICS, metricNamed } from '../../metrics/registry.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, type Random } from '../../foundation/random/random.js';
import { disclose } from '../disclosure/disclose.js';
import type { Result } from '../disclosure/result.js';
import { firstScheme } from './scheme.js';
import { openRows } from './scored.js';

/**
 * What a student reads off a first score about one row of which they choose the prediction: the share of simulated
 * classes in which what is shown differs with the truth of that row alone. A score that is shown in steps differs now and
 * then, where it lies at the edge of a step.
 */

const ROWS = 100;
const CLASSES = 10;
const OFTEN = 0.5;

/** What is predicted of each row, where one of them is aimed at: a probability, or a number. */
type Aim = (row: number, random: Random) => (other: number) => number;

const AIMS: readonly [string, Aim][] = [
  ['alone among the others', (row) => (other) => (other === row ? 0.9 : 0.1)],
  ['left out of all', (row) => (other) => (other === row ? 0.1 : 0.9)],
  ['as sure as can be', (row) => (other) => (other === row ? 1 : 0.5)],
  [
    'above all others',
    (row, random) => {
      const others = Array.from({ length: ROWS }, () => 0.3 + 0.4 * random.unit());
      return (other) => (other === row ? 0.99 : at(others, other));
    },
  ],
  [
    'with two others',
    (row, random) => {
      const few = new Set([row, random.below(ROWS), random.below(ROWS)]);
      return (other) => (few.has(other) ? 0.9 : 0.1);
    },
  ],
];
const NUMBER_AIMS: readonly [string, Aim][] = [
  ['far off', (row) => (other) => (other === row ? 1e6 : 0)],
  ['a little off', (row) => (other) => (other === row ? 3 : 0)],
  [
    'among guesses',
    (row, random) => {
      const others = Array.from({ length: ROWS }, () => random.unit() - 0.5);
      return (other) => (other === row ? 30 : at(others, other));
    },
  ],
];

function shown(metric: Metric, key: AnswerKey, predictions: Predictions): string {
  const { nothing: anchor } = firstScheme(metric, 1);
  const judged = judgeAgainst(key, predictions, Int32Array.from(key.feedback.keys()));
  const feedback = {
    rows: ROWS,
    score: figureOf(metric, judged),
    ...openRows(metric, judged, null, null, anchor),
  };
  const { scored } = disclose(
    {
      kind: 'predictions',
      judged: [],
      scored: { metric: metric.key, anchor, feedback, final: feedback },
    } as unknown as Result,
    {
      policy: 'only-when-better',
      returned: false,
      shown: null,
      latePercent: 0,
      slips: 'never',
      adjustment: null,
      comment: null,
    },
  );
  return JSON.stringify(scored);
}

/** The aims with which what is shown often differs between the two truths of a row. */
function differs(metric: Metric, aims: readonly [string, Aim][]): string[] {
  const shares = aims.map(([name, aim]) => {
    let differing = 0;
    for (let seed = 0; seed < CLASSES; seed++) {
      const random = seededRandom(seed, `one row ${name}`);
      for (let i = 0; i < 8; i++) random.unit();
      const row = random.below(ROWS);
      const worlds = metric.needs === 'numbers' ? numbers(row, random) : classes(row, random);
      const predict = aim(row, random);
      const predicted = Float64Array.from({ length: ROWS }, (_, other) => predict(other));
      const predictions: Predictions =
        metric.needs === 'numbers'
          ? { kind: 'numbers', predicted }
          : {
              kind: 'labels',
              predicted: Int32Array.from(predicted, (p) => (p >= 0.5 ? 1 : 0)),
              probabilities: [predicted.map((p) => 1 - p), predicted],
              derived: false,
            };
      const [one, other] = worlds.map((key) => shown(metric, key, predictions));
      if (one !== other) differing++;
    }
    return { name, share: differing / CLASSES };
  });
  return shares.filter(({ share }) => share > OFTEN).map(({ name }) => name);
}

const keyOf = (
  truths: Pick<AnswerKey, 'task' | 'labels' | 'positive' | 'classes' | 'values'>,
): AnswerKey => ({
  ...truths,
  groups: null,
  feedback: new Uint8Array(ROWS).fill(1),
});

function classes(row: number, random: Random): AnswerKey[] {
  const truth = Int32Array.from({ length: ROWS }, () => random.below(2));
  return [0, 1].map((code) =>
    keyOf({
      task: 'binary',
      labels: ['no', 'yes'],
      positive: 'yes',
      classes: truth.map((one, i) => (i === row ? code : one)),
      values: null,
    }),
  );
}

function numbers(row: number, random: Random): AnswerKey[] {
  // Sums of six are near enough to normal numbers of deviation 1.
  const truth = Float64Array.from(
    { length: ROWS },
    () => Math.SQRT2 * Array.from({ length: 6 }, () => random.unit() - 0.5).reduce((a, b) => a + b, 0),
  );
  return [-1, 1].map((value) =>
    keyOf({
      task: 'regression',
      labels: [],
      positive: null,
      classes: null,
      values: truth.map((one, i) => (i === row ? value : one)),
    }),
  );
}

describe('a score that is shown only when it is better tells the class of no single row', () => {
  it.each(
    METRICS.filter(({ tasks }) => tasks.includes('binary')).map((metric): [string, Metric] => [
      metric.name,
      metric,
    ]),
  )('%s', (_, metric) => {
    expect(differs(metric, AIMS)).toEqual([]);
  });
});

describe('a score that is undefined', () => {
  it('is not told from one that a single row decides: that would show which rows are for feedback', () => {
    const metric = metricNamed('precision');
    const shownFor = (row: number) => {
      const [key] = classes(0, seededRandom(3, 'undefined'));
      if (!key) throw new Error('no key');
      const predicted = Float64Array.from({ length: ROWS }, (_, other) => (other === row ? 0.9 : 0.1));
      const predictions: Predictions = {
        kind: 'labels',
        predicted: Int32Array.from(predicted, (p) => (p >= 0.5 ? 1 : 0)),
        probabilities: [predicted.map((p) => 1 - p), predicted],
        derived: false,
      };
      return shown(metric, key, predictions);
    };
    // No row of the score is predicted positive, or one.
    expect(shownFor(-1)).toBe(shownFor(5));
  });
});

describe('a score that is shown only when it is better tells the number of no single row', () => {
  it.each(
    METRICS.filter(({ tasks }) => tasks.includes('regression')).map((metric): [string, Metric] => [
      metric.name,
      metric,
    ]),
  )('%s', (_, metric) => {
    expect(differs(metric, NUMBER_AIMS)).toEqual([]);
  });
});
