import { at } from '../../foundation/numbers.js';
import { shuffle, type Random } from '../../foundation/random/random.js';
import { apportion, apportionClasses } from './apportion.js';

/**
 * random@1: rows shuffled, then cut at the apportioned sizes.
 *
 * @param rows the rows that take part, ascending
 * @param shares weight of each part
 * @param parts receives the part of each row in `rows`
 */
export function splitAtRandom(
  rows: Int32Array,
  shares: readonly number[],
  random: Random,
  parts: Int8Array,
): void {
  deal(shuffle(rows.slice(), random), apportion(rows.length, shares), parts);
}

/**
 * stratified@1: the rows of each class shuffled and cut, so that each class's count in each part is within 1 of
 * its exact share. Classes are taken in label order.
 *
 * @param classOf class of each row of the table, −1 for a missing value, which is a class of its own here
 */
export function splitStratified(
  rows: Int32Array,
  classOf: Int32Array,
  classCount: number,
  shares: readonly number[],
  random: Random,
  parts: Int8Array,
): void {
  const classes = Array.from({ length: classCount + 1 }, () => [] as number[]);
  for (const row of rows) {
    const code = at(classOf, row);
    at(classes, code < 0 ? classCount : code).push(row);
  }
  const counts = apportionClasses(
    classes.map((members) => members.length),
    shares,
  );
  classes.forEach((members, c) => deal(shuffle(Int32Array.from(members), random), at(counts, c), parts));
}

function deal(order: Int32Array, sizes: readonly number[], parts: Int8Array): void {
  let position = 0;
  sizes.forEach((size, part) => {
    for (let i = 0; i < size; i++) parts[at(order, position++)] = part;
  });
}
