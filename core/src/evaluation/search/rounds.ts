/** One round of a search: on which share of the training rows, in percent, and how many settings take part. */
export interface Round {
  readonly share: number;
  readonly settings: number;
}

/** Of three settings one goes on. */
const OF = 3;
/** Training rows of a fold below which a round tells too little to choose by: common practice. */
const FEWEST_ROWS = 60;
const MOST_ROUNDS = 4;

/**
 * The rounds of successive halving, here by thirds: all settings on a small share of the training rows, the better third on
 * three times as many rows, and so on until all rows (Jamieson and Talwalkar, AISTATS 2016). Few rows have few rounds.
 *
 * @param count settings that are drawn
 * @param rows training rows of the smallest fold
 */
export function halvingRounds(count: number, rows: number): Round[] {
  let rounds = 1;
  while (rounds < MOST_ROUNDS && OF ** rounds < count && rows / OF ** rounds >= FEWEST_ROWS) rounds++;
  return Array.from({ length: rounds }, (_, i) => ({
    share: 100 / OF ** (rounds - 1 - i),
    settings: Math.max(1, Math.ceil(count / OF ** i)),
  }));
}

/** Fits to folds that a search takes at most. */
export const fitsOf = (rounds: readonly Round[], folds: number): number =>
  rounds.reduce((fits, { settings }) => fits + settings * folds, 0);

/** A setting as a round measured it; the higher the score, the better, and null where it has none. */
export interface RoundScore {
  readonly place: number;
  readonly round: number;
  readonly score: number | null;
}

/**
 * The settings that take part in a round: the first one, which the search began with, and the best of the round before.
 * Those that an earlier round left behind do not come back: their scores are of fewer rows.
 *
 * @param round from 1
 * @param settings that may take part
 */
export function settingsThatGoOn(scores: readonly RoundScore[], round: number, settings: number): number[] {
  const known = scores.flatMap(({ place, score, round: own }) =>
    score === null || own !== round - 1 ? [] : [{ place, score }],
  );
  const best = known.sort((a, b) => b.score - a.score || a.place - b.place).map(({ place }) => place);
  return [...new Set([0, ...best])].slice(0, settings);
}
