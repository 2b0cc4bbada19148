import { shuffle, type Random } from '../../foundation/random/random.js';

/** Training rows that are learned from, and those that are held out to see when to stop; both ascending. */
export interface StoppingParts {
  readonly learned: Int32Array;
  /** Null where none are held out. */
  readonly held: Int32Array | null;
}

/**
 * Holds a share of the training rows out, drawn at random; rows that weigh nothing are in neither part.
 *
 * @param weights of the rows
 * @param percent of the rows that is held out; null for none, and of a single row none is
 */
export function partForStopping(
  weights: Float64Array,
  percent: number | null,
  random: Random,
): StoppingParts {
  const rows = Int32Array.from(weights.keys()).filter((row) => (weights[row] ?? 0) > 0);
  if (percent === null || rows.length < 2) return { learned: rows, held: null };
  const count = Math.min(rows.length - 1, Math.max(1, Math.round((rows.length * percent) / 100)));
  const drawn = shuffle(rows, random);
  return { learned: drawn.slice(count).sort(), held: drawn.slice(0, count).sort() };
}
