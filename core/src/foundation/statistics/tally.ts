/** Distinct values, ascending, without NaN, and how often each occurs; −0 counts as 0. */
export interface Tally {
  readonly values: Float64Array;
  readonly counts: Int32Array;
  /** The sum of the counts. */
  readonly total: number;
}

/** More distinct values than this are sorted row by row: a table of them no longer fits a processor's cache. */
const MOST_COUNTED = 1 << 14;
const SLOTS = 4 * MOST_COUNTED;
/** Fewer values than this are sorted sooner than such a table is made. */
const WORTH_COUNTING = 1 << 13;

/**
 * The distinct values of a column and their counts.
 *
 * Most columns hold few distinct values, each many times, since measurements are rounded: those are counted in a
 * table, and only the distinct ones sorted.
 */
export const tallyOf = (values: Float64Array): Tally => countedFew(values) ?? runsOf(sortedPresent(values));

/** The values that are not NaN, ascending, in an array of their own; −0 counts as 0. */
export function sortedValues(values: Float64Array): Float64Array {
  const few = countedFew(values);
  if (!few) return sortedPresent(values);
  const sorted = new Float64Array(few.total);
  let row = 0;
  few.values.forEach((value, i) => {
    const end = row + (few.counts[i] ?? 0);
    sorted.fill(value, row, end);
    row = end;
  });
  return sorted;
}

/**
 * Quantile of a tally by linear interpolation (type 7 of Hyndman and Fan, 1996).
 *
 * @param tally of at least one value
 * @param p between 0 and 1
 */
export function quantileOf({ values, counts, total }: Tally, p: number): number {
  const position = (total - 1) * p;
  const below = Math.floor(position);
  let [place, passed] = [0, counts[0] ?? 0];
  while (passed <= below) passed += counts[++place] ?? 0;
  const low = values[place] ?? 0;
  const high = below + 1 < passed ? low : (values[place + 1] ?? low);
  return low + (position - below) * (high - low);
}

function sortedPresent(values: Float64Array): Float64Array {
  const present = new Float64Array(values.length);
  let count = 0;
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? 0;
    if (!Number.isNaN(value)) present[count++] = value + 0;
  }
  return (count < present.length ? present.slice(0, count) : present).sort();
}

function runsOf(sorted: Float64Array): Tally {
  const values = new Float64Array(sorted.length);
  const counts = new Int32Array(sorted.length);
  let runs = 0;
  for (let i = 0; i < sorted.length; i++) {
    const value = sorted[i] ?? 0;
    if (runs === 0 || values[runs - 1] !== value) values[runs++] = value;
    counts[runs - 1] = (counts[runs - 1] ?? 0) + 1;
  }
  return { values: values.slice(0, runs), counts: counts.slice(0, runs), total: sorted.length };
}

/** Null where the values are few, or too many of them distinct. */
function countedFew(values: Float64Array): Tally | null {
  if (values.length < WORTH_COUNTING) return null;
  // Open addressing; an empty slot has the count 0.
  const held = new Float64Array(SLOTS);
  const times = new Int32Array(SLOTS);
  const cell = new Float64Array(1);
  const bits = new Int32Array(cell.buffer);
  /** Where each value occurs about twice or less, sorting them all is quicker. */
  const most = Math.min(MOST_COUNTED, values.length >> 1);
  let distinct = 0;
  let total = 0;
  const slotOf = (value: number) => {
    cell[0] = value;
    // Fibonacci hashing of both halves (Knuth, The Art of Computer Programming 3, 6.4).
    let slot = Math.imul((bits[0] ?? 0) ^ Math.imul(bits[1] ?? 0, 0x85ebca6b), 0x9e3779b1) >>> 16;
    while ((times[slot] ?? 0) > 0 && held[slot] !== value) slot = (slot + 1) & (SLOTS - 1);
    return slot;
  };
  for (let i = 0; i < values.length; i++) {
    const value = (values[i] ?? 0) + 0;
    if (Number.isNaN(value)) continue;
    total++;
    const slot = slotOf(value);
    if (times[slot] === 0) {
      if (distinct === most) return null;
      distinct++;
      held[slot] = value;
    }
    times[slot] = (times[slot] ?? 0) + 1;
  }
  const sorted = new Float64Array(distinct);
  let found = 0;
  for (let slot = 0; slot < SLOTS; slot++) if ((times[slot] ?? 0) > 0) sorted[found++] = held[slot] ?? 0;
  sorted.sort();
  const counts = new Int32Array(distinct);
  for (let i = 0; i < distinct; i++) counts[i] = times[slotOf(sorted[i] ?? 0)] ?? 0;
  return { values: sorted, counts, total };
}
