import { describe, expect, it } from '@jest/globals';
import { areaOf, rankingOf } from './ranking.js';

describe('a ranking', () => {
  const scores = Float64Array.of(0.1, 0.4, 0.35, 0.8);
  const truth = Int32Array.of(0, 0, 1, 1);

  it('has the area that scikit-learn’s documentation of roc_auc_score gives for these four rows', () => {
    expect(areaOf(rankingOf(scores, truth, 1, null))).toBe(0.75);
  });

  it('under weights is not taken for one without, and one class not for the other', () => {
    // By hand: with weight 3 of the row of 0.35, pairs of 3 + 1 + 1 of 8 are above.
    const weights = Float64Array.of(1, 1, 3, 1);
    expect(areaOf(rankingOf(scores, truth, 1, weights))).toBe(5 / 8);
    expect(areaOf(rankingOf(scores, truth, 1, null))).toBe(0.75);
    expect(areaOf(rankingOf(scores, truth, 0, null))).toBe(0.25);
    expect(areaOf(rankingOf(scores, Int32Array.of(1, 0, 1, 0), 1, null))).toBe(0);
  });
});
