/** By what a split is chosen; gain ratio is entropy's gain beside the information of the split itself. */
export type Criterion = 'gini' | 'entropy' | 'gain-ratio';

/** 1 − Σ p² (Breiman, Friedman, Olshen and Stone, Classification and Regression Trees, 1984). */
export function gini(sums: ArrayLike<number>, total: number): number {
  let squares = 0;
  for (let k = 0; k < sums.length; k++) squares += (sums[k] ?? 0) ** 2;
  return 1 - squares / (total * total);
}

/** −Σ p log₂ p (Quinlan, Machine Learning 1, 1986). */
export function entropy(sums: ArrayLike<number>, total: number): number {
  let sum = 0;
  for (let k = 0; k < sums.length; k++) {
    const share = (sums[k] ?? 0) / total;
    if (share > 0) sum -= share * Math.log2(share);
  }
  return sum;
}
