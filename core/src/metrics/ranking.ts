import { at, indices } from '../numbers.js';

/** One step of a ranking from the highest score down: all rows that share a score. */
export interface TieBlock {
  readonly score: number;
  readonly positive: number;
  readonly negative: number;
}

/**
 * Rows ranked by score, ties in one block, weights added up.
 *
 * @param isPositive whether row i is positive
 */
export function tieBlocks(
  scores: Float64Array,
  isPositive: (i: number) => boolean,
  weights: Float64Array | null,
): TieBlock[] {
  const order = indices(scores.length).sort((a, b) => at(scores, b) - at(scores, a));
  const blocks: { score: number; positive: number; negative: number }[] = [];
  for (const i of order) {
    const score = at(scores, i);
    let block = blocks.at(-1);
    if (block?.score !== score) {
      block = { score, positive: 0, negative: 0 };
      blocks.push(block);
    }
    block[isPositive(i) ? 'positive' : 'negative'] += weights ? at(weights, i) : 1;
  }
  return blocks;
}

/**
 * Area under the ROC curve: the chance that a positive row scores above a negative one, a tie counting half
 * (Hanley and McNeil, Radiology 143, 1982). NaN without rows of both kinds.
 */
export function areaOf(blocks: readonly TieBlock[]): number {
  let above = 0;
  let positives = 0;
  let negatives = 0;
  for (const { positive, negative } of blocks) {
    above += negative * (positives + positive / 2);
    positives += positive;
    negatives += negative;
  }
  return above / (positives * negatives);
}
