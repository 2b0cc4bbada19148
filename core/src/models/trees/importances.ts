import type { Importance } from '../contract/description.js';

/**
 * Shares of a gain by source column, which columns made of one text have in common, all of them summing to 1; the largest first.
 *
 * @param features the source of each column
 */
export function importancesByFeature(features: readonly string[], gains: Float64Array): Importance[] {
  const sums = new Map<string, number>();
  let total = 0;
  features.forEach((feature, column) => {
    const gain = gains[column] ?? 0;
    sums.set(feature, (sums.get(feature) ?? 0) + gain);
    total += gain;
  });
  return [...sums]
    .map(([feature, sum]) => ({ feature, share: total > 0 ? sum / total : 0 }))
    .sort((a, b) => b.share - a.share);
}
