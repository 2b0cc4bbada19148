import { at } from '../numbers.js';
import { Z95 } from './normal.js';
import { tieBlocks } from './ranking.js';

export interface AreaEstimate {
  readonly area: number;
  readonly variance: number;
  readonly low: number;
  readonly high: number;
}

/**
 * Area under the ROC curve with DeLong's variance and 95 % interval, cut to 0..1 (DeLong, DeLong and
 * Clarke-Pearson, Biometrics 44, 1988), by placements over the sorted scores in n log n.
 *
 * @returns null where fewer than two rows are positive or negative: a variance needs two
 */
export function delong(scores: Float64Array, isPositive: (i: number) => boolean): AreaEstimate | null {
  const blocks = tieBlocks(scores, isPositive, null);
  const positives = blocks.reduce((n, block) => n + block.positive, 0);
  const negatives = blocks.reduce((n, block) => n + block.negative, 0);
  if (positives < 2 || negatives < 2) return null;
  // The placement of a row is the share of the other class that it beats, ties counting half.
  const placements = { positive: new Float64Array(blocks.length), negative: new Float64Array(blocks.length) };
  let positivesAbove = 0;
  let negativesAbove = 0;
  let area = 0;
  blocks.forEach((block, b) => {
    const beaten = (negatives - negativesAbove - block.negative / 2) / negatives;
    placements.positive[b] = beaten;
    placements.negative[b] = (positivesAbove + block.positive / 2) / positives;
    area += (block.positive / positives) * beaten;
    positivesAbove += block.positive;
    negativesAbove += block.negative;
  });
  const spread = (kind: 'positive' | 'negative', n: number) =>
    blocks.reduce((sum, block, b) => sum + block[kind] * (at(placements[kind], b) - area) ** 2, 0) / (n - 1);
  const variance = spread('positive', positives) / positives + spread('negative', negatives) / negatives;
  const half = Z95 * Math.sqrt(variance);
  return { area, variance, low: Math.max(0, area - half), high: Math.min(1, area + half) };
}
