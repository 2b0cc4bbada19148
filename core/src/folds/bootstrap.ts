import { at } from '../numbers.js';
import type { Random } from '../random/random.js';

/**
 * bootstrap@1: as many rows as there are, drawn with replacement; those never drawn are out of the bag and tested
 * (Efron and Tibshirani, JASA 92, 1997).
 *
 * @returns drawn rows, ascending; and for each row of the table 0 where it is tested, −1 where it is not
 */
export function drawWithReplacement(
  rows: Int32Array,
  rowCount: number,
  random: Random,
): { drawn: Int32Array; outOfBag: Int32Array } {
  const outOfBag = new Int32Array(rowCount).fill(-1);
  for (const row of rows) outOfBag[row] = 0;
  const drawn = rows.map(() => at(rows, random.below(rows.length))).sort();
  for (const row of drawn) outOfBag[row] = -1;
  return { drawn, outOfBag };
}
