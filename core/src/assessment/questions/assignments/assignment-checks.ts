import { check, MOST_EXAMPLES, type Check } from '../../../foundation/check.js';
import { at, count, counted } from '../../../foundation/numbers.js';
import { distances, sizesOf, strataCounts } from './assignment-figures.js';
import type { Bounds, RowsKey } from './key.js';

type Strata = NonNullable<RowsKey['strata']>;

/** A part and the share of the rows that it is to have. */
export interface PartShare {
  readonly name: string;
  readonly share: number;
}

/** Where a key says nothing of it. */
export const NO_BOUNDS: Bounds = { rows: 1, range: 1, share: 0 };

/** Of the distribution of a number in a part: √(1/m − 1/n) times this is exceeded by 3 of 100 random parts. */
const DISTANCE = 1.45;
/** Share of a part that classes may be off by, whatever else is allowed: common practice. */
const SHARE_OF_PART = 0.02;

const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

/** Whether parts have the shares that were asked for. @param within in percentage points */
export function shareCheck(
  assigned: Int32Array,
  parts: readonly PartShare[],
  within: number,
  bounds: Bounds,
): Check {
  const n = assigned.length;
  const sizes = sizesOf(assigned, parts.length);
  const most = Math.max((within / 100) * n, bounds.rows);
  const isOff = parts.some(({ share }, i) => Math.abs(at(sizes, i) - share * n) > most + 1e-9);
  const shares = parts.map(({ name }, i) => `${name} ${percent(at(sizes, i) / n)}`).join(', ');
  const asked = parts.map(({ name, share }) => `${name} ${percent(share)}`).join(', ');
  return check(
    'sizes',
    isOff ? 'fails' : 'holds',
    isOff ? 'Parts are not of the sizes asked for' : 'Parts are of the sizes asked for',
    { measured: shares, expected: `${asked}, within ${sizeWords(within, bounds)}` },
  );
}

/** "1 point or 12 rows". */
export const sizeWords = (within: number, { rows }: Bounds): string =>
  `${counted(within, 'point')} or ${counted(rows, 'row')}`;

/** By how much shares may be off in words. */
export const strataWords = (within: number, { values, labels }: Strata, { share }: Bounds): string =>
  [
    counted(within, 'point'),
    ...(values ? ['what random parts reach'] : [counted(labels.length, 'row'), '2 % of a part']),
    ...(share > 0 ? [`the ${percent(share)} that 99 of 100 random assignments of whole groups keep to`] : []),
  ].join(' or ');

/**
 * Whether each class has the same share in every part, or a number the same distribution (Kolmogorov–Smirnov distance).
 *
 * @param within in percentage points
 */
export function strataCheck(
  assigned: Int32Array,
  names: readonly string[],
  strata: Strata,
  within: number,
  bounds: Bounds,
): Check {
  const cells = strata.values
    ? distanceCells(assigned, names, strata.values, within, bounds)
    : shareCells(assigned, names, strata, within, bounds);
  const worst = cells.reduce((so, cell) => (cell.off > so.off ? cell : so), {
    off: -1,
    isOff: false,
    text: '',
  });
  const isOff = cells.some((cell) => cell.isOff);
  const of = strata.values ? 'The distribution of' : 'Shares of';
  return check(
    'strata',
    isOff ? 'fails' : 'holds',
    isOff
      ? `${of} ${strata.column} ${strata.values ? 'differs' : 'differ'} between parts`
      : `${strata.values ? 'Equal distribution' : 'Equal shares'} of ${strata.column}`,
    { measured: worst.text, expected: `within ${strataWords(within, strata, bounds)}` },
  );
}

/** A part and a class, or a part and a number, with what it is off by. */
interface Cell {
  readonly off: number;
  readonly isOff: boolean;
  readonly text: string;
}

function shareCells(
  assigned: Int32Array,
  names: readonly string[],
  strata: Strata,
  within: number,
  bounds: Bounds,
): Cell[] {
  const n = assigned.length;
  const { sizes, counts, whole } = strataCounts(assigned, names.length, strata);
  const { labels } = strata;
  return names.flatMap((name, part) => {
    const size = at(sizes, part);
    if (size === 0) return [];
    const most = Math.max(labels.length, size * Math.max(SHARE_OF_PART, within / 100, bounds.share));
    return labels.map((label, code): Cell => {
      const [rows, all] = [at(counts, part * labels.length + code), at(whole, code) / n];
      return {
        off: Math.abs(rows / size - all),
        isOff: Math.abs(rows - all * size) > most + 1e-9,
        text: `“${label}” ${percent(rows / size)} in ${name}, ${percent(all)} in all`,
      };
    });
  });
}

function distanceCells(
  assigned: Int32Array,
  names: readonly string[],
  values: Float64Array,
  within: number,
  bounds: Bounds,
): Cell[] {
  const sizes = sizesOf(assigned, names.length);
  return distances(assigned, names.length, values).map((off, part): Cell => {
    const random = DISTANCE * Math.sqrt(Math.max(0, 1 / Math.max(1, at(sizes, part)) - 1 / assigned.length));
    return {
      off,
      isOff: off > Math.max(within / 100, random, bounds.share) + 1e-9,
      text: `distance ${off.toFixed(3)} in ${at(names, part)}`,
    };
  });
}

/** Whether the rows of each group are in one part. */
export function groupsCheck(assigned: Int32Array, groups: NonNullable<RowsKey['groups']>): Check {
  const partOf = new Map<number, number>();
  const split = new Set<number>();
  groups.codes.forEach((code, row) => {
    if (code < 0) return;
    const part = partOf.get(code);
    if (part === undefined) partOf.set(code, at(assigned, row));
    else if (part !== at(assigned, row)) split.add(code);
  });
  const examples = [...split].slice(0, MOST_EXAMPLES).map((code) => ({
    line: null,
    column: null,
    text: `${groups.column} ${at(groups.labels, code)} is split`,
  }));
  return check(
    'groups',
    split.size === 0 ? 'holds' : 'fails',
    split.size === 0 ? `No ${groups.column} is split` : `Rows of one ${groups.column} are in several parts`,
    {
      measured: `${count(split.size)} of ${count(partOf.size)} split across parts`,
      expected: 'none',
      examples,
    },
  );
}

/**
 * Whether the rows of each part are not before those of the parts before it. Rows without a time are passed over; rows of
 * the very time at which the order is cut may be in either part, as where sorted rows are cut at a share.
 */
export function timeCheck(
  assigned: Int32Array,
  names: readonly string[],
  { column, values }: NonNullable<RowsKey['time']>,
): Check {
  const last = new Array<number>(names.length).fill(-Infinity);
  assigned.forEach((part, row) => {
    const value = at(values, row);
    if (!Number.isNaN(value)) last[part] = Math.max(at(last, part), value);
  });
  let early = 0;
  assigned.forEach((part, row) => {
    if (last.slice(0, part).some((before) => at(values, row) < before)) early++;
  });
  return check(
    'time',
    early === 0 ? 'holds' : 'fails',
    early === 0
      ? `Parts follow one another in ${column}`
      : `Some rows are before the earlier parts in ${column}`,
    { measured: counted(early, 'row'), expected: 'none; rows of one time may be in both' },
  );
}

/** Whether rows with the same features are in one part. */
export function twinsCheck(assigned: Int32Array, twins: Int32Array): Check {
  let crossing = 0;
  twins.forEach((first, row) => {
    if (first >= 0 && first !== row && assigned[first] !== assigned[row]) crossing++;
  });
  return check(
    'twins',
    crossing === 0 ? 'holds' : 'fails',
    crossing === 0
      ? 'No row has the same features as one in another part'
      : 'Rows with the same features are in several parts',
    { measured: counted(crossing, 'row'), expected: 'none' },
  );
}
