import { gridOf } from '../src/assessment/marking/grid.js';
import { ladder } from '../src/assessment/marking/ladder.js';
import { roundedTo } from '../src/assessment/marking/rounded.js';
import { metricNamed } from '../src/metrics/registry.js';
import { at } from '../src/foundation/numbers.js';
import { seededRandom, type Random } from '../src/foundation/random/random.js';

const accuracy = metricNamed('accuracy');

/** What students who know nothing of the rows are shown, and how they go about it. */
export type Shown = 'everything' | 'rounded' | 'only-when-better';

/** A coin for each row: of answers that nobody knows, half are of each class. */
function coins(rows: number, random: Random): Int32Array {
  const out = new Int32Array(rows);
  for (let row = 0; row < rows; row++) out[row] = random.bits() >>> 31;
  return out;
}

/** The share of the rows from one on that are right. */
function hitsOf(answers: Int32Array, truth: Int32Array, from: number, rows: number): number {
  let hits = 0;
  for (let row = from; row < from + rows; row++) if (answers[row] === truth[row]) hits++;
  return hits / rows;
}

const stepByCounts = new Map<string, number>();
/** The step that accuracies are shown in, which depends on how many rows of each class there are. */
function stepFor(truth: Int32Array, rows: number): number {
  const answers = truth.slice(0, rows);
  const key = `${rows} ${answers.reduce((sum, code) => sum + code, 0)}`;
  const known = stepByCounts.get(key);
  if (known !== undefined) return known;
  const data = {
    labels: ['no', 'yes'],
    truth: answers,
    predicted: answers,
    probabilities: null,
    positive: 1,
    weights: null,
  };
  const { step } = gridOf(accuracy, { kind: 'labels', data }, 0.5);
  stepByCounts.set(key, step);
  return step;
}

/** Standard errors of an accuracy and of a difference of two, as the averages that they are. */
function stepsOf(answers: Int32Array, before: Int32Array | null, truth: Int32Array, rows: number) {
  const share = hitsOf(answers, truth, 0, rows);
  const own = Math.sqrt((share * (1 - share)) / (rows - 1));
  if (!before) return { own, paired: null };
  let [sum, squares] = [0, 0];
  for (let row = 0; row < rows; row++) {
    const d = (answers[row] === truth[row] ? 1 : 0) - (before[row] === truth[row] ? 1 : 0);
    sum += d;
    squares += d * d;
  }
  return { own, paired: Math.sqrt((squares - (sum * sum) / rows) / (rows - 1) / rows) };
}

export type Oracle = (answers: Int32Array) => number | null;

/** What one student is shown of one file after another. The first half of the rows is for feedback. */
function student(truth: Int32Array, policy: Shown): Oracle {
  const rows = truth.length / 2;
  const grid = { step: stepFor(truth, rows), oneRow: 1 / rows, oneRowOfGuesses: 1 / rows };
  let shown: number | null = null;
  let before: Int32Array | null = null;
  return (answers) => {
    const score = hitsOf(answers, truth, 0, rows);
    if (policy === 'everything') return score;
    if (policy === 'rounded') return roundedTo(score, rows);
    const reply = ladder(
      score,
      shown,
      { ...stepsOf(answers, before, truth, rows), ...grid },
      rows,
      accuracy,
      0.5,
    );
    if (reply !== null) [shown, before] = [reply, answers.slice()];
    return reply;
  };
}

/** Students who share what they are shown, each with their own best: files go around, or each sends theirs in a row. */
function colluding(truth: Int32Array, { policy, students, files, order }: Probing): Oracle {
  const each = Array.from({ length: students }, () => student(truth, policy));
  const own = Math.ceil(files / students);
  let turn = 0;
  return (answers) => {
    const whose = order === 'around' ? turn % students : Math.floor(turn / own);
    turn++;
    return at(each, whose)(answers);
  };
}

export type Attack = (attempts: number, oracle: Oracle, rows: number, random: Random) => Int32Array;

/** Random files, weighed by what is shown of them; then a vote. */
const voteBy =
  (weight: (reply: number | null) => number): Attack =>
  (attempts, oracle, rows, random) => {
    const votes = new Float64Array(2 * rows);
    for (let attempt = 0; attempt < attempts; attempt++) {
      const answers = coins(2 * rows, random);
      const way = weight(oracle(answers));
      for (let row = 0; row < votes.length; row++) votes[row] = at(votes, row) + (answers[row] ? way : -way);
    }
    // Where the votes say nothing, a coin.
    return Int32Array.from(votes, (one) => (one === 0 ? random.bits() >>> 31 : one > 0 ? 1 : 0));
  };

/** By how far above or below a half; nothing shown is a hint too: no better than what was shown before. */
export const vote = voteBy((reply) => (reply === null ? -0.01 : reply - 0.5));
/** By the side of a half alone, with less weight where nothing is shown. */
const voteBySide = voteBy((reply) => (reply === null ? -0.2 : reply > 0.5 ? 1 : -1));
/** What is shown to be above a half alone. */
const voteOfShown = voteBy((reply) => (reply !== null && reply > 0.5 ? 1 : 0));

/** Flips so many answers at a time, and keeps the change where it is shown to be better. */
const climb =
  (flips: number): Attack =>
  (attempts, oracle, rows, random) => {
    let best = coins(2 * rows, random);
    let score = oracle(best) ?? 0;
    for (let attempt = 1; attempt < attempts; attempt++) {
      const next = best.slice();
      for (let flip = 0; flip < flips; flip++) {
        const row = random.below(rows);
        next[row] = 1 - at(next, row);
      }
      const reply = oracle(next);
      if (reply !== null && reply > score) [best, score] = [next, reply];
    }
    return best;
  };

/** Votes over one half of the attempts, then changes to what the vote gave, a tenth of the rows at a time. */
const voteThenClimb: Attack = (attempts, oracle, rows, random) => {
  let best = vote(Math.floor(attempts / 2), oracle, rows, random);
  let score = -1;
  for (let attempt = Math.floor(attempts / 2); attempt < attempts; attempt++) {
    const next = best.slice();
    if (score >= 0)
      for (let flip = 0; flip < Math.ceil(rows / 10); flip++) {
        const row = random.below(rows);
        next[row] = 1 - at(next, row);
      }
    const reply = oracle(next);
    if (reply !== null && reply > score) [best, score] = [next, reply];
  }
  return best;
};

export const ATTACKS: readonly [string, Attack][] = [
  ['random files and a vote', vote],
  ['a vote by the side of a half', voteBySide],
  ['a vote of the files that were shown', voteOfShown],
  ['a vote, then changes', voteThenClimb],
  ...[1, 2, 5, 10, 25, 50].map((flips): [string, Attack] => [
    `flipping ${flips} answers at a time`,
    climb(flips),
  ]),
];

export interface Probing {
  readonly rows: number;
  /** Files in all. */
  readonly files: number;
  readonly students: number;
  readonly policy: Shown;
  readonly order: 'around' | 'in a row';
  /** Simulated classes. */
  readonly classes: number;
}

/** What an attack reaches on average, by rows that the attackers know nothing of: feedback rows and final ones. */
export function reached(attack: Attack, probing: Probing) {
  const { rows, files, classes } = probing;
  let [feedback, final] = [0, 0];
  for (let seed = 0; seed < classes; seed++) {
    const truth = coins(2 * rows, seededRandom(seed, 'truth'));
    const oracle = colluding(truth, probing);
    const answers = attack(files, oracle, rows, seededRandom(seed, 'attack'));
    feedback += hitsOf(answers, truth, 0, rows) / classes;
    final += hitsOf(answers, truth, rows, rows) / classes;
  }
  return { feedback, final };
}

/** The most that any of the attacks reaches on the feedback rows, in either order. */
export const mostReached = (probing: Omit<Probing, 'order'>): number =>
  Math.max(
    ...ATTACKS.flatMap(([, attack]) =>
      (['around', 'in a row'] as const).map((order) => reached(attack, { ...probing, order }).feedback),
    ),
  );

/** The share of honest students who see two improvements, of files at three accuracies one after another. */
export function progressShown(
  rows: number,
  accuracies: readonly [number, number, number],
  classes: number,
): number {
  let seen = 0;
  for (let seed = 0; seed < classes; seed++) {
    const random = seededRandom(seed, 'honest');
    const truth = coins(2 * rows, random);
    const oracle = student(truth, 'only-when-better');
    // A model that improves is right on the rows on which it was, and on more.
    const hard = Float64Array.from(truth, () => random.unit());
    const reply = accuracies.map((accuracy) =>
      oracle(truth.map((one, row) => (at(hard, row) < accuracy ? one : 1 - one))),
    );
    if (reply[0] !== null && reply.slice(1).filter((one) => one !== null).length >= 1) seen++;
  }
  return seen / classes;
}
