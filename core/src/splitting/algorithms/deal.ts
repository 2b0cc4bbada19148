import { at } from '../../foundation/numbers.js';
import { shuffle, type Random } from '../../foundation/random/random.js';

/**
 * k-fold@1: rows shuffled and assigned in turn, so that sizes differ by at most 1.
 *
 * @param fold receives the fold of each row in `rows`
 */
export function dealAtRandom(rows: Int32Array, k: number, random: Random, fold: Int32Array): void {
  shuffle(rows.slice(), random).forEach((row, i) => {
    fold[row] = i % k;
  });
}

/**
 * stratified-k-fold@1: the rows of each class shuffled and assigned in turn, each class going on at the fold where the one
 * before it ended. Sizes differ by at most 1, and so do the counts of each class. Classes are taken in label order, a
 * missing class last.
 *
 * @param classOf class of each row of the table, −1 for a missing value
 */
export function dealStratified(
  rows: Int32Array,
  classOf: Int32Array,
  classCount: number,
  k: number,
  random: Random,
  fold: Int32Array,
): void {
  const sizes = new Int32Array(classCount + 1);
  const classAt = (row: number) => ((classOf[row] ?? 0) < 0 ? classCount : (classOf[row] ?? 0));
  for (const row of rows) sizes[classAt(row)] = at(sizes, classAt(row)) + 1;
  const members = Array.from(sizes, (size) => new Int32Array(size));
  sizes.fill(0);
  for (const row of rows) {
    const c = classAt(row);
    at(members, c)[sizes[c] ?? 0] = row;
    sizes[c] = (sizes[c] ?? 0) + 1;
  }
  let next = 0;
  for (const class_ of members) {
    shuffle(class_, random);
    for (const row of class_) {
      fold[row] = next;
      next = next + 1 === k ? 0 : next + 1;
    }
  }
}
