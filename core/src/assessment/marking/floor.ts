import { judgeAgainst, type AnswerKey } from '../files/judge.js';
import type { Predictions } from '../files/reader.js';
import { figureOf } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle, type Random } from '../../foundation/random/random.js';

/** Standard deviations above the mean of random files: 1 of 200 is beyond. */
const BEYOND_CHANCE = 2.58;

/** Random files of each manner; fewer of many rows, where they hardly differ. */
const FILES = 100;
const FEW_FILES = 20;
const MANY_ROWS = 20_000;

/** Scores that show no work. */
export interface Floor {
  /** Of the best constant prediction; null where none has a score. */
  readonly constant: number | null;
  /** The better of that and of what 199 of 200 random files stay below; null where no such file has a score. */
  readonly random: number | null;
}

/**
 * The scores that show no work. Random files are of two manners: what is true in another order, and values from their
 * whole range.
 *
 * @param rows those that are scored
 * @param scoreOf the score of predictions on them; by the metric where left out
 */
export function floorOf(
  metric: Metric,
  key: AnswerKey,
  rows: Int32Array,
  scoreOf = (predictions: Predictions) => figureOf(metric, judgeAgainst(key, predictions, rows)).value,
): Floor {
  const way = metric.better === 'higher' ? 1 : -1;
  const best = (scores: readonly (number | null)[]): number | null =>
    scores.reduce<number | null>((so, one) => {
      if (one === null || so === null) return so ?? one;
      return way * one > way * so ? one : so;
    }, null);
  const constant = best(constants(key, rows).map(scoreOf));
  const random = seededRandom(0, 'floor');
  const files = rows.length > MANY_ROWS ? FEW_FILES : FILES;
  const beyond = MANNERS.map((manner) => {
    const found = Array.from({ length: files }, () => scoreOf(manner(key, rows, random))).filter(
      (score) => score !== null,
    );
    if (found.length < 2) return null;
    const mean = found.reduce((a, b) => a + b, 0) / found.length;
    const variance = found.reduce((sum, score) => sum + (score - mean) ** 2, 0) / (found.length - 1);
    return mean + way * BEYOND_CHANCE * Math.sqrt(variance);
  });
  return { constant, random: best([constant, ...beyond]) };
}

/** Files that give every row the same: each class, the class shares, the mean or the median. */
function constants({ classes, values, labels }: AnswerKey, rows: Int32Array): Predictions[] {
  if (values) {
    const own = Float64Array.from(rows, (row) => at(values, row)).sort();
    const mean = own.reduce((a, b) => a + b, 0) / own.length;
    const middle = (at(own, (own.length - 1) >> 1) + at(own, own.length >> 1)) / 2;
    return [mean, middle].map((value) => ({
      kind: 'numbers',
      predicted: new Float64Array(values.length).fill(value),
    }));
  }
  const n = classes?.length ?? 0;
  const counts = labels.map((_, label) => rows.filter((row) => classes?.[row] === label).length);
  const shares = counts.map((count) => count / rows.length);
  const of = (predicted: number, chances: readonly number[]): Predictions => ({
    kind: 'labels',
    predicted: new Int32Array(n).fill(predicted),
    probabilities: chances.map((chance) => new Float64Array(n).fill(chance)),
    derived: false,
  });
  return [
    ...labels.map((_, label) =>
      of(
        label,
        labels.map((__, other) => (other === label ? 1 : 0)),
      ),
    ),
    of(shares.indexOf(Math.max(...shares)), shares),
  ];
}

type Manner = (key: AnswerKey, rows: Int32Array, random: Random) => Predictions;

/** What is true, in another order. */
const shuffled: Manner = ({ classes, values, labels }, rows, random) => {
  const order = shuffle(rows.slice(), random);
  if (values) {
    const predicted = values.slice();
    rows.forEach((row, i) => (predicted[row] = at(values, at(order, i))));
    return { kind: 'numbers', predicted };
  }
  const predicted = (classes ?? new Int32Array()).slice();
  rows.forEach((row, i) => (predicted[row] = classes?.[at(order, i)] ?? 0));
  return {
    kind: 'labels',
    predicted,
    // Less certain than 0 and 1, which a single miss makes infinitely bad.
    probabilities: labels.map((_, label) =>
      Float64Array.from(predicted, (code) => (code === label ? 0.75 : 0.25 / Math.max(1, labels.length - 1))),
    ),
    derived: false,
  };
};

const evenly: Manner = ({ classes, values, labels }, rows, random) => {
  if (values) {
    const own = rows.map((row) => row);
    const [low, high] = [
      own.reduce((least, row) => Math.min(least, at(values, row)), Infinity),
      own.reduce((most, row) => Math.max(most, at(values, row)), -Infinity),
    ];
    return { kind: 'numbers', predicted: values.map(() => low + (high - low) * random.unit()) };
  }
  const n = classes?.length ?? 0;
  const chances = labels.map(() => Float64Array.from({ length: n }, () => random.unit()));
  const predicted = new Int32Array(n);
  for (let row = 0; row < n; row++) {
    const sum = chances.reduce((total, of) => total + at(of, row), 0);
    let best = 0;
    chances.forEach((of, label) => {
      of[row] = at(of, row) / sum;
      if (at(of, row) > at(at(chances, best), row)) best = label;
    });
    predicted[row] = best;
  }
  return { kind: 'labels', predicted, probabilities: chances, derived: false };
};

const MANNERS: readonly Manner[] = [shuffled, evenly];
