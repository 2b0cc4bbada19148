import { describe, expect, it } from '@jest/globals';
import { metricNamed } from '../metrics/registry.js';
import type { Judged } from '../metrics/judged.js';
import { at, indices } from '../numbers.js';
import { seededRandom, type Random } from '../random/random.js';
import { ladder } from './ladder.js';
import { standardErrors } from './standard-errors.js';

const accuracy = metricNamed('accuracy');
const ROWS = 500;
const LABELS = ['no', 'yes'];

/** Answers that nobody knows, half of them of each class, to feedback and to final rows. */
const truthOf = (random: Random) => coins(random);

/** A coin for each row. */
function coins(random: Random): Int32Array {
  const out = new Int32Array(2 * ROWS);
  for (let row = 0; row < out.length; row++) out[row] = random.bits() >>> 31;
  return out;
}

const hitsOf = (answers: Int32Array, truth: Int32Array, from: number): number => {
  let hits = 0;
  for (let row = from; row < from + ROWS; row++) if (answers[row] === truth[row]) hits++;
  return hits / ROWS;
};

/** Standard errors of an accuracy and of a difference of two, as the averages that they are. */
function stepsOf(answers: Int32Array, before: Int32Array | null, truth: Int32Array) {
  const share = hitsOf(answers, truth, 0);
  const own = Math.sqrt((share * (1 - share)) / (ROWS - 1));
  if (!before) return { own, paired: null };
  let [sum, squares] = [0, 0];
  for (let row = 0; row < ROWS; row++) {
    const d = (answers[row] === truth[row] ? 1 : 0) - (before[row] === truth[row] ? 1 : 0);
    sum += d;
    squares += d * d;
  }
  return { own, paired: Math.sqrt((squares - (sum * sum) / ROWS) / (ROWS - 1) / ROWS) };
}

/** What a student is told of one file after another. */
function classroom(truth: Int32Array, policy: 'everything' | 'only-when-better') {
  let shown: number | null = null;
  let before: Int32Array | null = null;
  return (answers: Int32Array): number | null => {
    const score = hitsOf(answers, truth, 0);
    if (policy === 'everything') return score;
    const told = ladder(score, shown, stepsOf(answers, before, truth), ROWS, accuracy);
    if (told !== null) [shown, before] = [told, answers.slice()];
    return told;
  };
}

/** Random files; those that are told to be above a half are kept, others inverted where anything is told; then a vote. */
function vote(attempts: number, tell: (answers: Int32Array) => number | null, random: Random): Int32Array {
  const votes = new Int32Array(2 * ROWS);
  for (let attempt = 0; attempt < attempts; attempt++) {
    const answers = coins(random);
    const told = tell(answers);
    // Nothing told is a hint too: the file is no better than what was told before.
    const way = told === null ? -0.2 : told > 0.5 ? 1 : -1;
    for (let row = 0; row < votes.length; row++)
      votes[row] = (votes[row] ?? 0) + way * (answers[row] ? 10 : -10);
  }
  return votes.map((one) => (one > 0 ? 1 : 0));
}

/** Flips so many answers at a time, and keeps the change where it is told to be better. */
function climb(
  attempts: number,
  flips: number,
  tell: (answers: Int32Array) => number | null,
  random: Random,
): Int32Array {
  let best = coins(random);
  let score = tell(best) ?? 0;
  for (let attempt = 1; attempt < attempts; attempt++) {
    const next = best.slice();
    for (let flip = 0; flip < flips; flip++) {
      const row = random.below(ROWS);
      next[row] = 1 - at(next, row);
    }
    const told = tell(next);
    if (told !== null && told > score) [best, score] = [next, told];
  }
  return best;
}

type Attack = (attempts: number, tell: (answers: Int32Array) => number | null, random: Random) => Int32Array;
const ATTACKS: readonly [string, Attack][] = [
  ['random files and a vote', vote],
  ...[1, 2, 5, 10, 25, 50, 100, 250].map((flips): [string, Attack] => [
    `flipping ${flips} answers at a time`,
    (attempts, tell, random) => climb(attempts, flips, tell, random),
  ]),
];

/** What an attack reaches, on average over some classes: on the feedback rows, and on the final ones. */
function reached(attack: Attack, attempts: number, policy: 'everything' | 'only-when-better', classes = 24) {
  let [feedback, final] = [0, 0];
  for (let seed = 0; seed < classes; seed++) {
    const truth = truthOf(seededRandom(seed, 'truth'));
    const answers = attack(attempts, classroom(truth, policy), seededRandom(seed, 'attack'));
    feedback += hitsOf(answers, truth, 0) / classes;
    final += hitsOf(answers, truth, ROWS) / classes;
  }
  return { feedback, final };
}

describe('only when better, against students who probe it: 500 feedback rows', () => {
  it('is needed: with every score shown, a vote over 1,000 random files reaches some 0.87', () => {
    const { feedback, final } = reached(vote, 1000, 'everything', 3);
    expect(feedback).toBeGreaterThan(0.8);
    expect(feedback).toBeLessThan(0.92);
    expect(Math.abs(final - 0.5)).toBeLessThan(0.05);
  });

  it.each(ATTACKS)(
    '%s stays below 0.63 in 1,000 attempts, and within noise on the final rows',
    (_, attack) => {
      const { feedback, final } = reached(attack, 1000, 'only-when-better');
      expect(feedback).toBeLessThan(0.63);
      // 24 classes of 500 rows: a standard error of 0.0046.
      expect(Math.abs(final - 0.5)).toBeLessThan(0.0185);
    },
  );

  it.each(ATTACKS)('%s stays below 0.56 in 20 attempts', (_, attack) => {
    expect(reached(attack, 20, 'only-when-better').feedback).toBeLessThan(0.56);
  });

  it('holds against 24 students who share what they are told', () => {
    // Each has 20 attempts and a best of their own; a vote is taken over all of their files.
    let sum = 0;
    for (let seed = 0; seed < 24; seed++) {
      const truth = truthOf(seededRandom(seed, 'truth'));
      const random = seededRandom(seed, 'attack');
      const students = Array.from({ length: 24 }, () => classroom(truth, 'only-when-better'));
      let turn = 0;
      const tell = (answers: Int32Array) => at(students, turn++ % students.length)(answers);
      sum += hitsOf(vote(24 * 20, tell, random), truth, 0) / 24;
    }
    expect(sum).toBeLessThan(0.63);
  });
});

describe('the rule', () => {
  const steps = { own: 0.02, paired: 0.01 };
  it('shows the first score, rounded to its step, and then only what beats it by more than the larger step', () => {
    expect(ladder(0.707, null, { own: 0.02, paired: null }, ROWS, accuracy)).toBeCloseTo(0.7, 9);
    expect(ladder(0.719, 0.7, steps, ROWS, accuracy)).toBeNull();
    expect(ladder(0.721, 0.7, steps, ROWS, accuracy)).toBeCloseTo(0.72, 9);
    expect(ladder(0.721, 0.7, { own: 0.001, paired: 0.03 }, ROWS, accuracy)).toBeNull();
  });

  it('goes the other way where lower is better', () => {
    const rmse = metricNamed('rmse');
    expect(ladder(9.5, 10, { own: 0.4, paired: 0.1 }, ROWS, rmse)).toBeCloseTo(9.6, 9);
    expect(ladder(9.7, 10, { own: 0.4, paired: 0.1 }, ROWS, rmse)).toBeNull();
  });

  it('takes a perfect score for uncertain by a row', () => {
    expect(ladder(1, null, { own: 0, paired: null }, 50, accuracy)).toBe(1);
    expect(ladder(1, 0.98, { own: 0, paired: 0 }, 50, accuracy)).toBeNull();
  });
});

describe('standard errors by the jackknife', () => {
  const random = seededRandom(8);
  const judged = (share: number, n: number): Judged => {
    const truth = Int32Array.from({ length: n }, () => random.below(2));
    const predicted = truth.map((one) => (random.unit() < share ? one : 1 - one));
    return {
      kind: 'labels',
      data: { labels: LABELS, truth, predicted, probabilities: null, positive: 1, weights: null },
    };
  };

  it('of an accuracy are those of an average, exactly where single rows are left out', () => {
    const one = judged(0.8, 150);
    const hits = indices(150).filter((row) => one.data.truth[row] === one.data.predicted[row]).length / 150;
    const { own } = standardErrors(accuracy, one, null, null);
    expect(own).toBeCloseTo(Math.sqrt((hits * (1 - hits)) / 149), 10);
  });

  it('of a difference are small where the same rows are right', () => {
    const one = judged(0.8, 1000);
    if (one.kind !== 'labels') throw new Error('labels');
    const flipped = one.data.predicted.slice();
    flipped[3] = 1 - at(flipped, 3);
    const other: Judged = { kind: 'labels', data: { ...one.data, predicted: flipped } };
    const { own, paired } = standardErrors(accuracy, other, one, null);
    expect(paired).toBeLessThan(own / 5);
    expect(standardErrors(accuracy, one, one, null).paired).toBe(0);
  });

  it('of rows in groups leave whole groups out: rows that repeat one another count once', () => {
    const one = judged(0.7, 60);
    if (one.kind !== 'labels') throw new Error('labels');
    const fivefold = (codes: Int32Array) =>
      Int32Array.from({ length: 300 }, (_, i) => at(codes, Math.floor(i / 5)));
    const repeated: Judged = {
      kind: 'labels',
      data: { ...one.data, truth: fivefold(one.data.truth), predicted: fivefold(one.data.predicted) },
    };
    const groups = Int32Array.from({ length: 300 }, (_, i) => Math.floor(i / 5));
    expect(standardErrors(accuracy, repeated, null, groups).own).toBeCloseTo(
      standardErrors(accuracy, one, null, null).own,
      10,
    );
  });
});
