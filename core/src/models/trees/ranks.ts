import type { TreeInputs } from './compact-tree.js';

/** A column of training rows as whole numbers, which sort faster than what they stand for. */
export interface RankedColumn {
  /** Of each row the place of its value among the different values in ascending order, or its level's code; −1 where it is missing. */
  readonly ranks: Int32Array;
  /** The different values of numbers; levels have none. */
  readonly distinct: Float64Array;
  /** How many ranks there are. */
  readonly count: number;
}

/** The columns of training rows by rank. */
export const rankColumns = ({ values, isCategory, levels }: TreeInputs): RankedColumn[] =>
  values.map((column, place) =>
    isCategory[place]
      ? {
          ranks: Int32Array.from(column, (code) => (Number.isNaN(code) ? -1 : code)),
          distinct: new Float64Array(),
          count: levels[place] ?? 0,
        }
      : rankNumbers(column),
  );

function rankNumbers(values: Float64Array): RankedColumn {
  const sorted = values.filter((value) => !Number.isNaN(value)).sort();
  let count = 0;
  for (let i = 0; i < sorted.length; i++) {
    const value = sorted[i] ?? 0;
    if (i === 0 || value !== sorted[count - 1]) sorted[count++] = value;
  }
  const distinct = sorted.slice(0, count);
  const ranks = new Int32Array(values.length);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] ?? NaN;
    ranks[row] = Number.isNaN(value) ? -1 : placeOf(distinct, value);
  }
  return { ranks, distinct, count };
}

/** Place of a value among values in ascending order. */
function placeOf(distinct: Float64Array, value: number): number {
  let [low, high] = [0, distinct.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((distinct[middle] ?? 0) < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Up to so many items insertion is the faster sort. */
const FEW = 32;

/** Bits of a digit: more where there are many items, so that counting digits takes no more time than moving items. */
function digitBits(count: number, bits: number): number {
  const most = count < 256 ? 6 : count < 8192 ? 8 : 11;
  return Math.max(1, Math.ceil(bits / Math.ceil(bits / most)));
}

/**
 * Sorts keys and the items that go with them, equal keys in their order: by insertion where there are few, else by the digits
 * of the keys (radix sort, Knuth, TAOCP 3, 5.2.5), which takes a time in proportion to their number.
 */
export class RankSorter {
  private readonly otherKeys: Int32Array;
  private readonly otherItems: Int32Array;
  private readonly starts = new Int32Array(1 << 11);

  constructor(size: number) {
    this.otherKeys = new Int32Array(size);
    this.otherItems = new Int32Array(size);
  }

  /** @param least the smallest key @param most the largest */
  sort(keys: Int32Array, items: Int32Array, count: number, least: number, most: number): void {
    if (count <= FEW) {
      insertionSort(keys, items, count);
      return;
    }
    const bits = 32 - Math.clz32(Math.max(1, most - least));
    const digit = digitBits(count, bits);
    const { otherKeys, otherItems } = this;
    let isOther = false;
    for (let shift = 0; shift < bits; shift += digit) {
      if (isOther) this.pass(otherKeys, otherItems, keys, items, count, least, shift, digit);
      else this.pass(keys, items, otherKeys, otherItems, count, least, shift, digit);
      isOther = !isOther;
    }
    if (!isOther) return;
    for (let i = 0; i < count; i++) {
      keys[i] = otherKeys[i] ?? 0;
      items[i] = otherItems[i] ?? 0;
    }
  }

  private pass(
    fromKeys: Int32Array,
    fromItems: Int32Array,
    toKeys: Int32Array,
    toItems: Int32Array,
    count: number,
    least: number,
    shift: number,
    bits: number,
  ): void {
    const { starts } = this;
    const mask = (1 << bits) - 1;
    for (let digit = 0; digit <= mask; digit++) starts[digit] = 0;
    for (let i = 0; i < count; i++) {
      const digit = (((fromKeys[i] ?? 0) - least) >>> shift) & mask;
      starts[digit] = (starts[digit] ?? 0) + 1;
    }
    let start = 0;
    for (let digit = 0; digit <= mask; digit++) {
      const size = starts[digit] ?? 0;
      starts[digit] = start;
      start += size;
    }
    for (let i = 0; i < count; i++) {
      const key = fromKeys[i] ?? 0;
      const digit = ((key - least) >>> shift) & mask;
      const place = starts[digit] ?? 0;
      starts[digit] = place + 1;
      toKeys[place] = key;
      toItems[place] = fromItems[i] ?? 0;
    }
  }
}

function insertionSort(keys: Int32Array, items: Int32Array, count: number): void {
  for (let i = 1; i < count; i++) {
    const key = keys[i] ?? 0;
    const item = items[i] ?? 0;
    let place = i;
    while (place > 0 && (keys[place - 1] ?? 0) > key) {
      keys[place] = keys[place - 1] ?? 0;
      items[place] = items[place - 1] ?? 0;
      place--;
    }
    keys[place] = key;
    items[place] = item;
  }
}
