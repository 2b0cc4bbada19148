import { judgeAgainst, type AnswerKey } from '../files/judge.js';
import type { Predictions } from '../files/reader.js';
import { membersOf, percentiles, strataOfJudged } from '../../metrics/intervals/bootstrap.js';
import { figureOf, resampled, weighted, type Judged } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';
import { FEWEST_GROUPS } from '../../metrics/intervals/interval.js';
import { at, indices } from '../../foundation/numbers.js';
import { seededRandom, shuffle, type Random } from '../../foundation/random/random.js';

/** How worn the feedback rows are: how much better than on the final rows the answers are that did best on them. */
export interface Wear {
  /** Students with a score on both. */
  readonly students: number;
  /** Mean over students of score on feedback rows less score on final rows, the other way round where lower is better. */
  readonly gap: number | null;
  /** What the choice of the best alone gives, had the rows been split otherwise. */
  readonly expected:
    | { readonly mean: number; readonly low: number; readonly high: number; readonly asLarge: number }
    | { readonly reason: string };
}

/** Other partings of the rows that are tried. */
const PARTINGS = 200;

/**
 * Measures wear. Each student's answer that scores best on the feedback rows is taken, and its score there compared with
 * that on the final rows. The best of several is flattered by chance; by how much is found by drawing the division into
 * feedback and final rows again, in the way of the first (within classes, or whole groups), for all students at once,
 * since they share the rows. A student who never looked at feedback is as likely to have the gap of one division as of
 * another, so a gap that few of them reach comes from answers that follow the feedback.
 *
 * A permutation test (Fisher, The Design of Experiments, 1935), where a bootstrap of the rows would expect too small a
 * gap: it gives each answer the luck of the real rows in both its samples.
 *
 * @param answers of each student, those that can be marked
 * @param seed of the partings
 */
export function wearOf(
  key: AnswerKey,
  answers: readonly (readonly Predictions[])[],
  metric: Metric,
  seed: number,
): Wear {
  const n = key.feedback.length;
  const judged = answers.map((own) => own.map((one) => judgeAgainst(key, one, indices(n))));
  const observed = gapOf(judged, metric, key.feedback);
  const [first] = judged.flat();
  const none = (reason: string): Wear => ({ ...observed, expected: { reason } });
  if (!first || observed.gap === null) return none('no answer has a score on both');
  const groups = key.groups ? membersOf(key.groups) : null;
  if (groups && groups.length < FEWEST_GROUPS)
    return none(`${groups.length} groups are too few to judge by: at least ${FEWEST_GROUPS} are needed`);
  const random = seededRandom(seed, 'wear');
  const strata = groups
    ? [groups]
    : strataOfJudged(first).map((rows) => Array.from(rows, (row) => Int32Array.of(row)));
  const gaps: number[] = [];
  for (let i = 0; i < PARTINGS; i++) {
    const { gap } = gapOf(judged, metric, partedAnew(key.feedback, strata, random));
    if (gap !== null) gaps.push(gap);
  }
  if (gaps.length < PARTINGS / 2) return none('most other partings leave the score undefined');
  const { gap } = observed;
  // The real division is one of those that might have been (Phipson and Smyth, 2010).
  const asLarge = (gaps.filter((one) => one >= gap).length + 1) / (gaps.length + 1);
  return {
    ...observed,
    expected: {
      mean: gaps.reduce((a, b) => a + b, 0) / gaps.length,
      ...percentiles(Float64Array.from(gaps).sort(), 0.95),
      asLarge,
    },
  };
}

/** As many units of each stratum are for feedback as were, drawn again; a unit is a row or a whole group. */
function partedAnew(
  feedback: Uint8Array,
  strata: readonly (readonly Int32Array[])[],
  random: Random,
): Uint8Array {
  const chosenRows = new Uint8Array(feedback.length);
  for (const units of strata) {
    const chosen = units.filter((rows) => feedback[at(rows, 0)] === 1).length;
    const order = shuffle(indices(units.length), random);
    for (let i = 0; i < chosen; i++) for (const row of at(units, at(order, i))) chosenRows[row] = 1;
  }
  return chosenRows;
}

function gapOf(
  judged: readonly (readonly Judged[])[],
  metric: Metric,
  feedback: Uint8Array,
): Pick<Wear, 'students' | 'gap'> {
  const way = metric.better === 'higher' ? 1 : -1;
  const shown = scorer(metric, feedback, 1);
  const final = scorer(metric, feedback, 0);
  const gaps = judged.flatMap((own) => {
    let best: { readonly score: number; readonly answer: Judged } | null = null;
    for (const answer of own) {
      const score = shown(answer);
      if (score !== null && (best === null || way * score > way * best.score)) best = { score, answer };
    }
    const there = best && final(best.answer);
    return best === null || there === null ? [] : [way * (best.score - there)];
  });
  return {
    students: gaps.length,
    gap: gaps.length === 0 ? null : gaps.reduce((a, b) => a + b, 0) / gaps.length,
  };
}

/** Scores answers on the rows of one purpose; a row of the other counts for nothing, so that nothing is copied. */
function scorer(metric: Metric, feedback: Uint8Array, purpose: 0 | 1): (judged: Judged) => number | null {
  const weights = Float64Array.from(feedback, (is) => (is === purpose ? 1 : 0));
  const rows = indices(feedback.length).filter((row) => feedback[row] === purpose);
  return (judged) =>
    figureOf(metric, metric.unweighted ? resampled(judged, rows) : weighted(judged, weights)).value;
}
