import { check, type Check } from '../../../foundation/check.js';
import { at, counted } from '../../../foundation/numbers.js';
import type { PartShare } from './assignment-checks.js';
import { sizesOf } from './assignment-figures.js';
import { WORK } from '../contract/credit.js';
import type { Bounds, RowsKey } from './key.js';

/** A part is there where it has at least this share of the rows asked for, and at most the inverse; a fold likewise. */
const WIDE_MARGIN = { part: 2 / 3, fold: 1 / 4 };

/** Chance that rows of parts are in the order of time, from which on there is an order. */
const IN_ORDER = 0.75;

/**
 * The conditions that an assignment does not keep, without which it earns nothing: each part is there, in about its size;
 * where groups are to stay whole more of them do than by chance; where time has an order there is one.
 */
export function assignmentFaults(
  assigned: Int32Array,
  parts: readonly PartShare[],
  { groups, time, bounds }: Pick<RowsKey, 'groups' | 'time' | 'bounds'>,
  kind: keyof typeof WIDE_MARGIN,
): Check[] {
  return [
    ...sizeFaults(assigned, parts, bounds, WIDE_MARGIN[kind]),
    ...(groups ? groupFaults(assigned, parts.length, groups) : []),
    ...(time ? timeFaults(assigned, parts.length, time) : []),
  ];
}

function sizeFaults(
  assigned: Int32Array,
  parts: readonly PartShare[],
  bounds: Bounds | undefined,
  margin: number,
): Check[] {
  const n = assigned.length;
  const sizes = sizesOf(assigned, parts.length);
  const slack = bounds?.rows ?? 1;
  const wrong = parts.find(({ share }, i) => {
    const [size, asked] = [at(sizes, i), share * n];
    return size === 0 || size < asked * margin - slack || size > asked / margin + slack;
  });
  if (!wrong) return [];
  const size = at(sizes, parts.indexOf(wrong));
  return [
    check(WORK, 'fails', `${counted(size, 'row')} in ${wrong.name}: that is another split than asked for.`, {
      measured: counted(size, 'row'),
      expected: `about ${counted(Math.round(wrong.share * n), 'row')}`,
    }),
  ];
}

/** Groups that are whole, of those of several rows, against what random rows give: half of the way to all of them is asked. */
function groupFaults(assigned: Int32Array, parts: number, groups: NonNullable<RowsKey['groups']>): Check[] {
  const n = assigned.length;
  const shares = sizesOf(assigned, parts).map((size) => size / n);
  const sizes = new Int32Array(groups.labels.length);
  const partOf = new Int32Array(groups.labels.length).fill(-1);
  const isWhole = new Uint8Array(groups.labels.length).fill(1);
  groups.codes.forEach((code, row) => {
    if (code < 0) return;
    sizes[code] = at(sizes, code) + 1;
    if (partOf[code] === -1) partOf[code] = at(assigned, row);
    else if (partOf[code] !== assigned[row]) isWhole[code] = 0;
  });
  let [several, whole, byChance] = [0, 0, 0];
  sizes.forEach((size, code) => {
    if (size < 2) return;
    several++;
    whole += at(isWhole, code);
    byChance += shares.reduce((sum, share) => sum + share ** size, 0);
  });
  if (several === 0 || whole >= (byChance + several) / 2) return [];
  return [
    check(WORK, 'fails', `Rows of one ${groups.column} are not kept together.`, {
      measured: `${whole} of ${several} whole`,
      expected: `every ${groups.column} in one part`,
    }),
  ];
}

/** Of two rows of different parts, how often the one of the later part is later, equal times half. */
function timeFaults(assigned: Int32Array, parts: number, time: NonNullable<RowsKey['time']>): Check[] {
  const { column, values } = time;
  const rows = Array.from(values.keys()).filter((row) => !Number.isNaN(at(values, row)));
  rows.sort((a, b) => at(values, a) - at(values, b));
  const before = new Array<number>(parts).fill(0);
  let [pairs, right] = [0, 0];
  for (let start = 0; start < rows.length;) {
    let end = start;
    while (end < rows.length && values[at(rows, end)] === values[at(rows, start)]) end++;
    const now = new Array<number>(parts).fill(0);
    for (const row of rows.slice(start, end)) now[at(assigned, row)] = at(now, at(assigned, row)) + 1;
    for (let one = 0; one < parts; one++)
      for (let other = 0; other < parts; other++) {
        if (one === other) continue;
        const count = at(before, one) * at(now, other);
        pairs += count;
        if (one < other) right += count;
        // Equal times: a pair of parts is met twice.
        pairs += (at(now, one) * at(now, other)) / 2;
        right += (at(now, one) * at(now, other)) / 4;
      }
    now.forEach((n, part) => (before[part] = at(before, part) + n));
    start = end;
  }
  if (pairs === 0 || right / pairs >= IN_ORDER) return [];
  return [
    check(WORK, 'fails', `The parts do not follow one another in ${column}.`, {
      measured: `${((100 * right) / pairs).toFixed(0)} % of the pairs of rows in order`,
      expected: 'the parts one after another',
    }),
  ];
}
