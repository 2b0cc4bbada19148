import { figureOf, type Judged } from '../../metrics/judged.js';
import type { LabelData, Metric, NumberData } from '../../metrics/metric.js';
import { at, indices } from '../../foundation/numbers.js';
import { seededRandom, shuffle, type Random } from '../../foundation/random/random.js';
import { stepFactor } from './ladder.js';
import { bounded } from './row-readable.js';

/** More than any score; results are kept as JSON, which has no infinity. */
const WHOLLY = Number.MAX_VALUE;
/** Guesses whose scores are compared. */
const GUESSES = 60;
/** Rows of a guess of numbers, at most: with more, the spread follows from them. */
const MOST_ROWS = 1000;
/** Of classes: parts that shares are rounded to, and rows for each. */
const [SHARES, ROWS_OF_SHARE] = [20, 10];
/** Steps from what guessing reaches to a perfect score, at least: however few the rows, something can be shown. */
const FEWEST_STEPS = 3;

/** In which steps scores are shown, and how much of a score one row may be. */
export interface Grid {
  readonly step: number;
  /** How much a single row changes the score of the guess that depends on one most, in half of the guesses. */
  readonly oneRow: number;
}

/**
 * The steps in which a score is shown while an exercise is open, from what guessing reaches to a perfect score. They
 * follow from the metric, from how many rows there are of each class or how numbers spread, and never from an answer:
 * a step that depends on the rows that were got right would show which these are. A perfect score is a whole number of
 * steps away, so that it is shown like what lies half a step below it.
 *
 * @param judged predictions, of which only the truths count, in no order
 * @param anchor what guessing reaches
 */
export function gridOf(metric: Metric, judged: Judged, anchor: number): Grid {
  const rows = judged.data.truth.length;
  const { spread, oneRow } = guesses(metric, judged);
  const end = metric.range[metric.better === 'higher' ? 1 : 0];
  const room = end === null ? 0 : Math.abs(end - anchor);
  const wanted = stepFactor(rows) * spread;
  if (room === 0) return { step: wanted, oneRow };
  return { step: room / Math.max(FEWEST_STEPS, Math.round(room / wanted)), oneRow };
}

interface Guesses {
  /** Standard deviation of their scores. */
  readonly spread: number;
  /** How much one row counts in them. */
  readonly oneRow: number;
}

/** Of classes, by metric and by how many rows there are of each class: the same for all files of an exercise. */
const known = new Map<string, Guesses>();
const MOST_KNOWN = 500;

function guesses(metric: Metric, judged: Judged): Guesses {
  if (judged.kind === 'numbers') return guessing(metric, judged);
  const { labels, truth, positive, probabilities } = judged.data;
  const counts = labels.map(() => 0);
  for (const code of truth) counts[code] = at(counts, code) + 1;
  const name = [metric.key, positive, probabilities !== null, ...counts].join(' ');
  const found = known.get(name) ?? guessing(metric, judged);
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(name, found);
  return found;
}

function guessing(metric: Metric, judged: Judged): Guesses {
  const random = seededRandom(1, 'guesses');
  const truth = typical(judged);
  const n = truth.data.truth.length;
  const [scores, ones]: [number[], number[]] = [[], []];
  for (let i = 0; i < GUESSES; i++) {
    const guess = guessed(truth, random);
    const score = figureOf(metric, guess).value;
    if (score === null) continue;
    scores.push(score);
    if (i % 4 === 0) ones.push(mostOfOneRow(metric, guess));
  }
  if (scores.length < 2) return { spread: 0, oneRow: 0 };
  const mean = scores.reduce((a, b) => a + b, 0) / scores.length;
  const variance = scores.reduce((sum, score) => sum + (score - mean) ** 2, 0) / (scores.length - 1);
  const share = n / judged.data.truth.length;
  ones.sort((a, b) => a - b);
  return {
    spread: Math.sqrt(variance * share),
    oneRow: at(ones, Math.floor(ones.length / 2)) * share,
  };
}

/**
 * Truths as the rows have them on the whole, and nothing of which row has which: of classes some 200 with shares to the
 * next twentieth, so that one row more of a class changes nothing; of numbers the sorted ones, evenly thinned.
 */
function typical(judged: Judged): Judged {
  if (judged.kind === 'labels') {
    const { truth, labels } = judged.data;
    const counts = labels.map(() => 0);
    for (const code of truth) counts[code] = at(counts, code) + 1;
    const codes = counts.flatMap((count, code) => {
      const parts = count === 0 ? 0 : Math.max(1, Math.round((SHARES * count) / truth.length));
      return Array.from({ length: parts * ROWS_OF_SHARE }, () => code);
    });
    return { kind: 'labels', data: { ...judged.data, truth: Int32Array.from(codes) } };
  }
  const sorted = judged.data.truth.slice().sort();
  const step = Math.max(1, Math.ceil(sorted.length / MOST_ROWS));
  return { kind: 'numbers', data: { ...judged.data, truth: sorted.filter((_, i) => i % step === 0) } };
}

/** Labels by the shares of the classes, with probabilities of any size; numbers in another order. */
function guessed(judged: Judged, random: Random): Judged {
  if (judged.kind === 'numbers') {
    const predicted = judged.data.truth.slice();
    const order = shuffle(indices(predicted.length), random);
    return {
      kind: 'numbers',
      data: {
        ...judged.data,
        predicted: predicted.map((_, i) => at(predicted, at(order, i))),
        weights: null,
      },
    };
  }
  const { data } = judged;
  const n = data.truth.length;
  const predicted = shuffle(data.truth.slice(), random);
  // Exponential numbers, divided by their sum, are probabilities that are spread evenly.
  const raw = data.labels.map(() => Float64Array.from({ length: n }, () => -Math.log(1 - random.unit())));
  const sums = Float64Array.from({ length: n }, (_, row) => raw.reduce((sum, of) => sum + at(of, row), 0));
  const probabilities = data.probabilities && raw.map((of) => of.map((value, row) => value / at(sums, row)));
  return bounded({ kind: 'labels', data: { ...data, predicted, probabilities, weights: null } });
}

/**
 * How much a score can change with the truth of a single row: of rows that are likely to count most, the truth is
 * changed, one at a time. The largest number where the score is undefined with one truth and not with the other. It is
 * the same whichever of its truths the row has.
 */
export function mostOfOneRow(metric: Metric, judged: Judged): number {
  const rows = judged.kind === 'labels' ? labelsOfRows(judged.data) : numbersOfRows(judged.data);
  let most = 0;
  for (const truths of rows) {
    const scores = truths.map((one) => figureOf(metric, one).value);
    const known = scores.filter((score) => score !== null);
    if (known.length === 0) continue;
    const apart = Math.max(...known) - Math.min(...known);
    most = Math.max(most, known.length < scores.length ? WHOLLY : apart);
  }
  return most;
}

/** For each pair of true and predicted label the rows with the most and the least probability, with each truth. */
function* labelsOfRows(data: LabelData): Generator<Judged[]> {
  const { labels, truth, predicted, probabilities, positive } = data;
  const ranked = new Map<number, { low: number; high: number }>();
  for (let row = 0; row < truth.length; row++) {
    const cell = at(truth, row) * labels.length + at(predicted, row);
    const of = probabilities?.[positive ?? at(predicted, row)];
    const found = ranked.get(cell);
    if (!found) ranked.set(cell, { low: row, high: row });
    else if (of) {
      if (at(of, row) < at(of, found.low)) found.low = row;
      if (at(of, row) > at(of, found.high)) found.high = row;
    }
  }
  for (const { low, high } of ranked.values())
    for (const row of new Set([low, high]))
      yield [at(truth, row), ...othersOf(at(truth, row), at(predicted, row), labels.length)].map((label) => ({
        kind: 'labels',
        data: { ...data, truth: truth.with(row, label) },
      }));
}

/** Another label than the true one: the predicted one and the next, which are the same of two. */
const othersOf = (truth: number, predicted: number, count: number): number[] =>
  [...new Set([predicted, (truth + 1) % count])].filter((label) => label !== truth);

/** The rows with the largest, middle and smallest errors and predictions, with truths at either end of what is usual. */
function* numbersOfRows(data: NumberData): Generator<Judged[]> {
  const { truth, predicted } = data;
  const mean = truth.reduce((a, b) => a + b, 0) / truth.length;
  const deviation = Math.sqrt(truth.reduce((sum, y) => sum + (y - mean) ** 2, 0) / truth.length);
  const byError = indices(truth.length).sort(
    (a, b) => at(truth, a) - at(predicted, a) - (at(truth, b) - at(predicted, b)),
  );
  const byPrediction = indices(truth.length).sort((a, b) => at(predicted, a) - at(predicted, b));
  const rows = [byError, byPrediction].flatMap((order) =>
    [0, Math.floor(order.length / 2), order.length - 1].map((place) => at(order, place)),
  );
  for (const row of new Set(rows))
    yield [mean - 2 * deviation, mean + 2 * deviation].map((y) => ({
      kind: 'numbers',
      data: { ...data, truth: truth.with(row, y) },
    }));
}
