import { describe, expect, it } from '@jest/globals';
import type { AnswerKey } from '../files/judge.js';
import type { Predictions } from '../files/reader.js';
import { metricNamed } from '../../metrics/registry.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, type Random } from '../../foundation/random/random.js';
import { wearOf } from './wear.js';

const accuracy = metricNamed('accuracy');
const ROWS = 400;

const coins = (random: Random) => Int32Array.from({ length: ROWS }, () => random.bits() >>> 31);
const answer = (predicted: Int32Array): Predictions => ({
  kind: 'labels',
  predicted,
  probabilities: null,
  derived: false,
});

/** Answers that nobody can know, every other row for feedback. */
const keyOf = (random: Random, groups: Int32Array | null = null): AnswerKey => ({
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  classes: coins(random),
  values: null,
  groups,
  feedback: Uint8Array.from({ length: ROWS }, (_, row) => (groups ? at(groups, row) : row) % 2),
});

/** Students who each hand in so many files of coins. */
const guessing = (students: number, files: number, random: Random) =>
  Array.from({ length: students }, () => Array.from({ length: files }, () => answer(coins(random))));

/** A student who knows the answers of some feedback rows, and guesses the others. */
function following(key: AnswerKey, known: number, random: Random): Predictions {
  const predicted = coins(random);
  const rows = Array.from(key.feedback.keys()).filter((row) => key.feedback[row] === 1);
  for (const row of rows.slice(0, known)) predicted[row] = key.classes?.[row] ?? 0;
  return answer(predicted);
}

const expectedOf = (wear: ReturnType<typeof wearOf>) => {
  if ('reason' in wear.expected) throw new Error(wear.expected.reason);
  return wear.expected;
};

describe('the wear of feedback rows', () => {
  it('is expected to be what the best of several guesses gains by chance', () => {
    const random = seededRandom(7);
    const key = keyOf(random);
    const { mean } = expectedOf(wearOf(key, guessing(30, 10, random), accuracy, 1));
    // The largest of 10 standard normal deviates is 1.5388 on average (order statistics, from memory), each guess of
    // 200 rows deviates by √(0.25/200).
    expect(mean).toBeCloseTo(1.5388 * Math.sqrt(0.25 / 200), 2);
    const single = expectedOf(wearOf(key, guessing(30, 1, random), accuracy, 1));
    expect(single.mean).toBeCloseTo(0, 2);
  });

  it('is within what chance gives where nobody follows the feedback, as often as it should be', () => {
    const random = seededRandom(11);
    const CLASSES = 40;
    const shares = Array.from({ length: CLASSES }, (_, i) => {
      const { asLarge } = expectedOf(wearOf(keyOf(random), guessing(4, 3, random), accuracy, i));
      return asLarge;
    });
    // A tenth and a half of them, give or take two and a half standard errors.
    for (const level of [0.1, 0.5]) {
      const found = shares.filter((share) => share <= level).length / CLASSES;
      expect(Math.abs(found - level)).toBeLessThan(2.5 * Math.sqrt((level * (1 - level)) / CLASSES));
    }
  });

  it('is told from chance where students follow the feedback', () => {
    const random = seededRandom(5);
    const key = keyOf(random);
    const answers = Array.from({ length: 6 }, () =>
      [1, 30, 60].map((known) => following(key, known, random)),
    );
    const wear = wearOf(key, answers, accuracy, 1);
    expect(wear.students).toBe(6);
    expect(wear.gap).toBeGreaterThan(0.1);
    const { high, asLarge } = expectedOf(wear);
    expect(wear.gap).toBeGreaterThan(high);
    expect(asLarge).toBeLessThan(0.01);
  });

  it('has its sign turned for errors', () => {
    const random = seededRandom(3);
    const values = Float64Array.from({ length: ROWS }, () => random.unit());
    const key: AnswerKey = {
      ...keyOf(random),
      task: 'regression',
      labels: [],
      positive: null,
      classes: null,
      values,
    };
    const predicted = values.map((value, row) => (key.feedback[row] === 1 ? value : value + 0.5));
    const wear = wearOf(key, [[{ kind: 'numbers', predicted }]], metricNamed('mae'), 1);
    expect(wear.gap).toBeCloseTo(0.5, 10);
    expect(expectedOf(wear).asLarge).toBeLessThan(0.01);
  });

  it('is not judged by few groups, nor without answers', () => {
    const random = seededRandom(2);
    const few = keyOf(
      random,
      Int32Array.from({ length: ROWS }, (_, row) => row % 6),
    );
    expect(wearOf(few, guessing(2, 2, random), accuracy, 1)).toMatchObject({
      students: 2,
      gap: expect.any(Number),
      expected: { reason: expect.stringContaining('6 groups are too few') },
    });
    expect(wearOf(few, [[]], accuracy, 1)).toEqual({
      students: 0,
      gap: null,
      expected: { reason: 'no answer has a score on both' },
    });
  });

  it('keeps whole groups together in other divisions', () => {
    const random = seededRandom(9);
    // Each of 20 groups is guessed as a whole: partings that cut groups would expect a much smaller gap.
    const groups = Int32Array.from({ length: ROWS }, (_, row) => Math.floor(row / 20));
    const key = { ...keyOf(random, groups), classes: Int32Array.from(groups, () => 1) };
    const whole = () => {
      const ofGroup = Array.from({ length: 20 }, () => random.bits() >>> 31);
      return answer(Int32Array.from(groups, (group) => at(ofGroup, group)));
    };
    const answers = Array.from({ length: 20 }, () => [whole(), whole(), whole()]);
    const { mean } = expectedOf(wearOf(key, answers, accuracy, 1));
    // The largest of three is 0.8463 standard deviations up on average; a guess of ten groups deviates by √(0.25/10).
    expect(mean).toBeGreaterThan(0.6 * 0.8463 * Math.sqrt(0.25 / 10));
  });
});
