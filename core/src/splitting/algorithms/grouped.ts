import { at, indices } from '../../foundation/numbers.js';
import { shuffle, type Random } from '../../foundation/random/random.js';

/** Passes over all groups in search of a better place, and the most groups for which pairs are exchanged too. */
const PASSES = 20;
const MOST_GROUPS_FOR_EXCHANGES = 300;

/**
 * grouped@1 and stratified-grouped@1: whole groups go to parts so that each part comes near its share of every
 * class; with a single class, near its share of the rows.
 *
 * Groups are taken in a seeded order, each to the part where the summed squared departure from the exact counts,
 * each relative to the exact count, grows least (the greedy rule of scikit-learn's StratifiedGroupKFold, with shares
 * in place of folds). Then single groups are moved, and pairs exchanged, while that brings the parts nearer.
 *
 * @param counts rows of each group in each class: counts[group][class]
 * @param shares weight of each part
 * @returns the part of each group
 */
export function assignGroups(
  counts: readonly (readonly number[])[],
  shares: readonly number[],
  random: Random,
): Int8Array {
  const classCount = counts[0]?.length ?? 0;
  const totalShare = shares.reduce((a, b) => a + b, 0);
  const classTotals = Array.from({ length: classCount }, (_, c) =>
    counts.reduce((n, group) => n + at(group, c), 0),
  );
  const target = shares.map((share) => classTotals.map((total) => (total * share) / totalShare));
  const filled = shares.map(() => new Array<number>(classCount).fill(0));
  const used = indices(shares.length).filter((part) => at(shares, part) > 0);
  const parts = new Int8Array(counts.length).fill(-1);

  const departure = (part: number, group: readonly number[] | null, sign: number): number => {
    let sum = 0;
    let rows = 0;
    let wanted = 0;
    for (let c = 0; c < classCount; c++) {
      const aim = at(at(target, part), c);
      const now = at(at(filled, part), c) + (group ? sign * at(group, c) : 0);
      if (aim > 0) sum += (now - aim) ** 2 / aim;
      rows += now;
      wanted += aim;
    }
    return sum + (wanted > 0 ? (rows - wanted) ** 2 / wanted : 0);
  };
  const put = (g: number, part: number) => {
    const before = at(parts, g);
    at(counts, g).forEach((n, c) => {
      if (before >= 0) at(filled, before)[c] = at(at(filled, before), c) - n;
      at(filled, part)[c] = at(at(filled, part), c) + n;
    });
    parts[g] = part;
  };

  for (const g of shuffle(indices(counts.length), random)) {
    const group = at(counts, g);
    let best = { part: at(used, 0), growth: Infinity };
    for (const part of used) {
      const growth = departure(part, group, 1) - departure(part, null, 1);
      if (growth < best.growth - 1e-12) best = { part, growth };
    }
    put(g, best.part);
  }

  /** Keeps a change when the parts are nearer their shares after it; otherwise takes it back. */
  const improves = (change: () => void, undo: () => void): boolean => {
    const before = used.reduce((sum, part) => sum + departure(part, null, 1), 0);
    change();
    if (used.reduce((sum, part) => sum + departure(part, null, 1), 0) < before - 1e-9) return true;
    undo();
    return false;
  };
  for (let pass = 0; pass < PASSES; pass++) {
    let better = false;
    for (let g = 0; g < counts.length; g++) {
      for (const part of used) {
        const from = at(parts, g);
        if (
          part !== from &&
          improves(
            () => put(g, part),
            () => put(g, from),
          )
        )
          better = true;
      }
    }
    for (let a = 0; counts.length <= MOST_GROUPS_FOR_EXCHANGES && a < counts.length; a++) {
      for (let b = a + 1; b < counts.length; b++) {
        const [partA, partB] = [at(parts, a), at(parts, b)];
        if (partA === partB) continue;
        const exchange = (first: number, second: number) => () => {
          put(a, first);
          put(b, second);
        };
        if (improves(exchange(partB, partA), exchange(partA, partB))) better = true;
      }
    }
    if (!better) break;
  }
  return parts;
}
