import { at, indices } from '../../foundation/numbers.js';
import { shuffle, type Random } from '../../foundation/random/random.js';

/**
 * grouped-k-fold@1 and stratified-grouped-k-fold@1: whole groups go to folds, the largest first, equal ones in seeded
 * order, each to the fold whose summed squared departure from the due counts of every class and of rows grows least
 * (the greedy rule of scikit-learn's StratifiedGroupKFold). Of the folds only those may take a group that stay
 * within the size of the largest group of the smallest fold, which bounds how far sizes can differ: with a single
 * class this is the rule of longest processing time (Graham, SIAM J. Appl. Math. 17, 1969).
 *
 * @param counts rows of each group in each class: counts[group][class]; at least k groups
 * @returns the fold of each group; no fold is empty, and the largest exceeds the smallest by at most the largest group
 */
export function dealGroups(counts: readonly (readonly number[])[], k: number, random: Random): Int32Array {
  const classes = counts[0]?.length ?? 0;
  const sizes = counts.map((group) => group.reduce((a, b) => a + b, 0));
  const due = Array.from({ length: classes }, (_, c) =>
    counts.reduce((n, group) => n + (group[c] ?? 0) / k, 0),
  );
  const dueRows = due.reduce((a, b) => a + b, 0);
  const order = Array.from(shuffle(indices(counts.length), random)).sort(
    (a, b) => (sizes[b] ?? 0) - (sizes[a] ?? 0),
  );
  const largest = at(sizes, at(order, 0));
  const filled = Array.from({ length: k }, () => new Float64Array(classes));
  const rows = new Float64Array(k);
  const groupsIn = new Int32Array(k);
  const foldOf = new Int32Array(counts.length);

  /** By how much the departure of a fold grows with a group: Σ ((n + g − d)² − (n − d)²) / d over classes and rows. */
  const growth = (fold: number, g: number): number => {
    let sum = ((sizes[g] ?? 0) * (2 * ((rows[fold] ?? 0) - dueRows) + (sizes[g] ?? 0))) / dueRows;
    const own = at(filled, fold);
    const group = at(counts, g);
    for (let c = 0; c < classes; c++) {
      const n = group[c] ?? 0;
      if (n > 0) sum += (n * (2 * ((own[c] ?? 0) - (due[c] ?? 0)) + n)) / (due[c] ?? 0);
    }
    return sum;
  };

  order.forEach((g, taken) => {
    const empty = groupsIn.filter((n) => n === 0).length;
    const mustFill = counts.length - taken <= empty;
    const bound = Math.min(...rows) + largest;
    let best = -1;
    let least = Infinity;
    for (let fold = 0; fold < k; fold++) {
      if (mustFill ? (groupsIn[fold] ?? 0) > 0 : (rows[fold] ?? 0) + (sizes[g] ?? 0) > bound) continue;
      const grown = growth(fold, g);
      if (grown < least - 1e-12) {
        best = fold;
        least = grown;
      }
    }
    foldOf[g] = best;
    rows[best] = (rows[best] ?? 0) + (sizes[g] ?? 0);
    groupsIn[best] = (groupsIn[best] ?? 0) + 1;
    const own = at(filled, best);
    at(counts, g).forEach((n, c) => {
      own[c] = (own[c] ?? 0) + n;
    });
  });
  return foldOf;
}
