import { check, MOST_EXAMPLES, type Check } from '../check/check.js';
import { at, count, counted } from '../numbers.js';
import type { RowsKey } from './rules.js';

const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

/** Rows of each part or fold. */
export function sizesOf(assigned: Int32Array, parts: number): number[] {
  const sizes = new Array<number>(parts).fill(0);
  for (const part of assigned) if (part >= 0) sizes[part] = (sizes[part] ?? 0) + 1;
  return sizes;
}

/** Whether parts have the shares that were asked for. @param within in percentage points */
export function shareCheck(
  assigned: Int32Array,
  parts: readonly { readonly name: string; readonly share: number }[],
  within: number,
): Check {
  const n = assigned.length;
  const sizes = sizesOf(assigned, parts.length);
  const isOff = parts.some(({ share }, i) => {
    const off = Math.abs(at(sizes, i) - share * n);
    // Less than a row cannot be met more nearly.
    return off >= 1 && (100 * off) / n > within + 1e-9;
  });
  const shares = parts.map(({ name }, i) => `${name} ${percent(at(sizes, i) / n)}`).join(', ');
  const asked = parts.map(({ name, share }) => `${name} ${percent(share)}`).join(', ');
  return check(
    'sizes',
    isOff ? 'fails' : 'holds',
    isOff ? 'Parts are not of the sizes asked for' : 'Parts are of the sizes asked for',
    {
      measured: shares,
      expected: `${asked}, within ${within} points`,
    },
  );
}

/** Whether each class has the same share in every part. @param within in percentage points, or a row where that is more */
export function strataCheck(
  assigned: Int32Array,
  names: readonly string[],
  strata: NonNullable<RowsKey['strata']>,
  within: number,
): Check {
  const n = assigned.length;
  const sizes = sizesOf(assigned, names.length);
  const labels = strata.labels.length;
  const counts = new Int32Array(names.length * labels);
  const whole = new Int32Array(labels);
  strata.codes.forEach((code, row) => {
    if (code < 0) return;
    whole[code] = (whole[code] ?? 0) + 1;
    const cell = at(assigned, row) * labels + code;
    counts[cell] = (counts[cell] ?? 0) + 1;
  });
  const cells = names.flatMap((name, part) => {
    const size = at(sizes, part);
    if (size === 0) return [];
    return strata.labels.map((label, code) => {
      const [rows, all] = [at(counts, part * labels + code), at(whole, code) / n];
      const off = Math.abs(rows / size - all);
      return {
        off,
        isOff: 100 * off > within + 1e-9 && Math.abs(rows - all * size) >= 1,
        text: `“${label}” ${percent(rows / size)} in ${name}, ${percent(all)} in all`,
      };
    });
  });
  const worst = cells.reduce((so, cell) => (cell.off > so.off ? cell : so), {
    off: -1,
    isOff: false,
    text: '',
  });
  const isOff = cells.some((cell) => cell.isOff);
  return check(
    'strata',
    isOff ? 'fails' : 'holds',
    isOff ? `Shares of ${strata.column} differ between parts` : `Equal shares of ${strata.column}`,
    { measured: worst.text, expected: `within ${within} points of all rows, or a row` },
  );
}

/** Whether the rows of each group are in one part. */
export function groupsCheck(assigned: Int32Array, groups: NonNullable<RowsKey['groups']>): Check {
  const partOf = new Map<number, number>();
  const parted = new Set<number>();
  groups.codes.forEach((code, row) => {
    if (code < 0) return;
    const part = partOf.get(code);
    if (part === undefined) partOf.set(code, at(assigned, row));
    else if (part !== at(assigned, row)) parted.add(code);
  });
  const examples = [...parted].slice(0, MOST_EXAMPLES).map((code) => ({
    line: null,
    column: null,
    text: `${groups.column} ${at(groups.labels, code)} is parted`,
  }));
  return check(
    'groups',
    parted.size === 0 ? 'holds' : 'fails',
    parted.size === 0
      ? `No ${groups.column} is parted`
      : `Rows of one ${groups.column} stand in several parts`,
    { measured: `${count(parted.size)} of ${count(partOf.size)} parted`, expected: 'none', examples },
  );
}

/** Whether the rows of each part lie before those of the next. Rows without a time are passed over. */
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
    // A tie belongs to one side: a row at the very time of an earlier part is not later than it.
    if (last.slice(0, part).some((before) => at(values, row) <= before)) early++;
  });
  return check(
    'time',
    early === 0 ? 'holds' : 'fails',
    early === 0
      ? `Parts follow one another in ${column}`
      : `Some rows do not lie after the earlier parts in ${column}`,
    { measured: counted(early, 'row'), expected: 'none' },
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
      : 'Rows with the same features stand in several parts',
    { measured: counted(crossing, 'row'), expected: 'none' },
  );
}
