import { describe, expect, it } from '@jest/globals';
import { metricNamed } from '../../metrics/registry.js';
import type { Judged } from '../../metrics/judged.js';
import { at, indices } from '../../foundation/numbers.js';
import { seededRandom } from '../../foundation/random/random.js';
import { ATTACKS, progressShown, reached, vote, type Probing } from '../../../test/probing.js';
import { gridOf, mostOfOneRow } from './grid.js';
import { dependsOnOneRow, ladder, stepFactor } from './ladder.js';
import { standardErrors } from './standard-errors.js';

const accuracy = metricNamed('accuracy');
const ROWS = 500;
const LABELS = ['no', 'yes'];
const alone = (files: number): Probing => ({
  rows: ROWS,
  files,
  students: 1,
  policy: 'only-when-better',
  order: 'around',
  classes: 24,
});

describe('only when better, against students who probe it: 500 feedback rows', () => {
  it('is needed: with every score shown, a vote over 1,000 random files reaches some 0.9', () => {
    const { feedback, final } = reached(vote, { ...alone(1000), policy: 'everything', classes: 3 });
    expect(feedback).toBeGreaterThan(0.8);
    expect(Math.abs(final - 0.5)).toBeLessThan(0.05);
  });

  it.each(ATTACKS)(
    '%s stays below 0.62 in 1,000 attempts, and within noise on the final rows',
    (_, attack) => {
      const { feedback, final } = reached(attack, alone(1000));
      expect(feedback).toBeLessThan(0.62);
      // 24 classes of 500 rows: a standard error of 0.0046.
      expect(Math.abs(final - 0.5)).toBeLessThan(0.0185);
    },
  );

  it.each(ATTACKS)('%s stays below 0.56 in 20 attempts', (_, attack) => {
    expect(reached(attack, alone(20)).feedback).toBeLessThan(0.56);
  });
});

describe('only when better, with 100 feedback rows', () => {
  it.each(ATTACKS)('%s by 12 students who share 20 attempts each stays below 0.65', (_, attack) => {
    for (const order of ['around', 'in a row'] as const) {
      const { feedback, final } = reached(attack, {
        rows: 100,
        files: 240,
        students: 12,
        policy: 'only-when-better',
        order,
        classes: 40,
      });
      expect(feedback).toBeLessThan(0.65);
      // 40 classes of 100 rows: a standard error of 0.0079.
      expect(Math.abs(final - 0.5)).toBeLessThan(0.032);
    }
  });

  it('shows honest progress: from 0.65 by 0.75 to 0.85 is seen by nearly everybody', () => {
    expect(progressShown(100, [0.65, 0.75, 0.85], 300)).toBeGreaterThan(0.95);
    // Smaller steps than chance are not: some half of the class sees a rise by ten points.
    expect(progressShown(100, [0.65, 0.7, 0.75], 300)).toBeGreaterThan(0.35);
    expect(progressShown(500, [0.65, 0.7, 0.75], 300)).toBeGreaterThan(0.95);
  });
});

describe('the rule', () => {
  const one = { oneRow: 0.01, oneRowOfGuesses: 0.01 };
  const steps = { own: 0.02, paired: 0.01, step: 0.05, ...one };
  const first = { ...steps, paired: null };
  // 100 rows: a score must rise by 2.5 standard errors.
  it('shows the first score, in steps from what guessing reaches, and then only what beats it beyond chance', () => {
    expect(ladder(0.707, null, first, 100, accuracy, 0.5)).toBeCloseTo(0.7, 9);
    expect(ladder(0.749, 0.7, steps, 100, accuracy, 0.5)).toBeNull();
    expect(ladder(0.751, 0.7, steps, 100, accuracy, 0.5)).toBeCloseTo(0.75, 9);
    expect(ladder(0.751, 0.7, { ...steps, own: 0.001, paired: 0.03 }, 100, accuracy, 0.5)).toBeNull();
    // It would be shown as the same step again.
    expect(ladder(0.716, 0.7, { ...steps, own: 0.001, paired: 0.001 }, 500, accuracy, 0.5)).toBeNull();
  });

  it('shows every guess as a guess', () => {
    for (const guess of [0.38, 0.49, 0.52]) expect(ladder(guess, null, first, 100, accuracy, 0.5)).toBe(0.5);
  });

  it('asks for a smaller rise where there are more rows, down to one standard error', () => {
    expect(stepFactor(100)).toBe(2.5);
    expect(stepFactor(1e6)).toBeCloseTo(1, 1);
  });

  it('goes the other way where lower is better', () => {
    const rmse = metricNamed('rmse');
    const errors = { own: 0.4, paired: 0.1, step: 1, oneRow: 0.1, oneRowOfGuesses: 0.1 };
    expect(ladder(8.9, 10, errors, 100, rmse, 10)).toBeCloseTo(9, 9);
    expect(ladder(9.1, 10, errors, 100, rmse, 10)).toBeNull();
    expect(ladder(11, null, { ...errors, paired: null }, 100, rmse, 10)).toBe(10);
  });

  it('can show a perfect score after a middling one however few the rows', () => {
    const few = { ...one, own: 0.18, paired: 0.18, step: 0.5 / 3 };
    expect(ladder(0.67, null, few, 7, accuracy, 0.5)).toBeCloseTo(0.6667, 4);
    expect(ladder(1, 0.6667, few, 7, accuracy, 0.5)).toBe(1);
  });

  it('takes a perfect score for uncertain by a row', () => {
    const sure = { ...one, own: 0, paired: 0, step: 0.02 };
    expect(ladder(1, null, sure, 50, accuracy, 0.5)).toBe(1);
    expect(ladder(1, 0.98, sure, 50, accuracy, 0.5)).toBeNull();
  });

  it('shows nothing that depends on a single row', () => {
    expect(dependsOnOneRow(steps, accuracy)).toBe(false);
    expect(dependsOnOneRow({ ...steps, oneRow: 0.06 }, accuracy)).toBe(true);
    expect(dependsOnOneRow({ ...steps, oneRow: 0.04 }, accuracy)).toBe(true);
    expect(dependsOnOneRow({ ...steps, oneRow: 0.02, oneRowOfGuesses: 0.02 }, metricNamed('log_loss'))).toBe(
      true,
    );
    // With few rows every score does: then no more than a guess does.
    expect(dependsOnOneRow({ ...steps, oneRow: 0.04, oneRowOfGuesses: 0.04 }, accuracy)).toBe(false);
  });
});

describe('the steps', () => {
  const judgedOf = (yes: number, rows: number): Judged => {
    const truth = Int32Array.from({ length: rows }, (_, i) => (i < yes ? 1 : 0));
    return {
      kind: 'labels',
      data: { labels: LABELS, truth, predicted: truth, probabilities: null, positive: 1, weights: null },
    };
  };

  it('lead from what guessing reaches to a perfect score in whole numbers, three at least', () => {
    // Guesses of 100 rows spread by 0.05, which is 2.5 times in a step: four of them.
    const steps = (rows: number) => 0.5 / gridOf(accuracy, judgedOf(rows / 2, rows), 0.5).step;
    expect(steps(20)).toBeCloseTo(3, 9);
    expect(steps(100)).toBeCloseTo(4, 9);
    // By the standard error of a share, 0.0112, some 33; the spread of sixty guesses is uncertain by a tenth.
    expect(steps(2000)).toBeGreaterThan(28);
    expect(steps(2000)).toBeLessThan(40);
  });

  it('are the same in whichever order rows are, and with one row more of a class', () => {
    const { step } = gridOf(accuracy, judgedOf(50, 100), 0.5);
    const turned = judgedOf(50, 100);
    turned.data.truth.reverse();
    expect(gridOf(accuracy, turned, 0.5).step).toBe(step);
    expect(gridOf(accuracy, judgedOf(51, 100), 0.5).step).toBe(step);
  });

  it('know a precision that depends on a single row', () => {
    const alone = judgedOf(50, 100);
    if (alone.kind !== 'labels') throw new Error('labels');
    const predicted = new Int32Array(100);
    predicted[0] = 1;
    const judged: Judged = { kind: 'labels', data: { ...alone.data, predicted } };
    expect(mostOfOneRow(metricNamed('precision'), judged)).toBe(1);
    expect(mostOfOneRow(accuracy, judged)).toBeCloseTo(0.01, 9);
    predicted[0] = 0;
    // Nobody is predicted positive: there is no precision with either truth.
    expect(mostOfOneRow(metricNamed('precision'), judged)).toBe(0);
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
