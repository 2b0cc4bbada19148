import { at } from '../../foundation/numbers.js';

/**
 * Shares n things out in proportion to weights by the method of largest remainders (Hamilton); equal remainders
 * go to the earlier place. The counts sum to n and each differs from its exact share by less than 1.
 */
export function apportion(n: number, weights: readonly number[]): number[] {
  const total = weights.reduce((a, b) => a + b, 0);
  const exact = weights.map((weight) => (n * weight) / total);
  const counts = exact.map((share) => Math.floor(share + 1e-9));
  const order = exact
    .map((share, i) => ({ i, rest: share - at(counts, i) }))
    .sort((a, b) => b.rest - a.rest || a.i - b.i);
  let left = n - counts.reduce((a, b) => a + b, 0);
  for (const { i } of order) {
    if (left <= 0) break;
    counts[i] = at(counts, i) + 1;
    left--;
  }
  return counts;
}

/**
 * Rounds a table of classes × parts so that every class is shared out whole, each cell is within 1 of its exact
 * share, and the parts come out at their own apportioned sizes wherever the cells allow it.
 *
 * Controlled rounding (Cox, JASA 1987), here as a small bipartite matching: every cell gets its whole part, and
 * the rows that remain of a class go to different parts along augmenting paths.
 *
 * @param classSizes rows of each class
 * @param weights of the parts
 * @returns counts by class, then by part
 */
export function apportionClasses(classSizes: readonly number[], weights: readonly number[]): number[][] {
  const total = weights.reduce((a, b) => a + b, 0);
  const exact = classSizes.map((size) => weights.map((weight) => (size * weight) / total));
  const counts = exact.map((shares) => shares.map((share) => Math.floor(share + 1e-9)));
  const partSizes = apportion(
    classSizes.reduce((a, b) => a + b, 0),
    weights,
  );
  const room = partSizes.map(
    (size, part) => size - counts.reduce((filled, shares) => filled + at(shares, part), 0),
  );
  const extra = counts.map(() => new Set<number>());
  const allowed = (c: number, part: number) =>
    at(at(exact, c), part) - at(at(counts, c), part) > 1e-9 && !at(extra, c).has(part);

  /** Finds room for one more row of class c, moving extras of other classes out of the way if need be. */
  const place = (c: number, tried: Set<number>): boolean => {
    for (let part = 0; part < weights.length; part++) {
      if (tried.has(part) || !allowed(c, part)) continue;
      tried.add(part);
      if (at(room, part) > 0) {
        room[part] = at(room, part) - 1;
        at(extra, c).add(part);
        return true;
      }
      for (let other = 0; other < counts.length; other++) {
        if (other === c || !at(extra, other).has(part)) continue;
        at(extra, other).delete(part);
        if (place(other, tried)) {
          at(extra, c).add(part);
          return true;
        }
        at(extra, other).add(part);
      }
    }
    return false;
  };

  classSizes.forEach((size, c) => {
    let left = size - at(counts, c).reduce((a, b) => a + b, 0);
    for (; left > 0 && place(c, new Set()); left--);
    // Where sizes of parts and of classes cannot both be met, the class's shares come first.
    for (let part = 0; left > 0 && part < weights.length; part++) {
      if (!allowed(c, part)) continue;
      at(extra, c).add(part);
      left--;
    }
  });
  return counts.map((shares, c) => shares.map((whole, part) => whole + (at(extra, c).has(part) ? 1 : 0)));
}
