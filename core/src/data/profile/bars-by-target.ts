import { at } from '../../foundation/numbers.js';
import { labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { columnNamed, isCoded, type Column, type Table } from '../table/table.js';
import type { ColumnProfile } from './profile.js';
import { shownClass } from './shown-class.js';

/** The target at each bar of a column's distribution: a bin of its histogram, or one of its most frequent values. */
export interface BarsByTarget {
  readonly column: string;
  /** Share of the class, or mean of the number, among the rows of each bar that have a target; null without any. */
  readonly figures: readonly (number | null)[];
}

export interface TargetInBars {
  /** The class whose share is shown; null for the mean of a number. */
  readonly label: string | null;
  readonly bars: readonly BarsByTarget[];
}

/** The target along the distribution of every column that has one. */
export function barsByTarget(
  table: Table,
  roles: Pick<Roles, 'target' | 'task' | 'positive'>,
  profiles: readonly ColumnProfile[],
): TargetInBars {
  const target = columnNamed(table, roles.target);
  const { label, values } = answersOf(target, roles);
  const bars = profiles.flatMap((profile) => {
    const column = table.columns.find(({ name }) => name === profile.name);
    if (!column || profile.name === roles.target || column.kind === 'text') return [];
    const { codes, count } = barsOf(column, profile);
    const sums = new Float64Array(count);
    const rows = new Int32Array(count);
    for (let row = 0; row < table.rowCount; row++) {
      const [bar, value] = [codes[row] ?? 0, values[row] ?? 0];
      if (bar < 0 || Number.isNaN(value)) continue;
      sums[bar] = (sums[bar] ?? 0) + value;
      rows[bar] = (rows[bar] ?? 0) + 1;
    }
    const figures = Array.from(sums, (sum, bar) => (at(rows, bar) === 0 ? null : sum / at(rows, bar)));
    return [{ column: profile.name, figures }];
  });
  return { label, bars };
}

/** The answer of each row as a number: 1 for the class that is shown, the value itself of a number. */
function answersOf(
  target: Column,
  roles: Pick<Roles, 'task' | 'positive'>,
): { label: string | null; values: Float64Array } {
  const label = shownClass(target, roles);
  if (label === null && !isCoded(target)) return { label, values: target.values };
  const { labels, codes } = labelsOf(target);
  const wanted = labels.indexOf(label ?? '');
  const values = new Float64Array(codes.length);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row] ?? -1;
    values[row] = code < 0 ? NaN : code === wanted ? 1 : 0;
  }
  return { label, values };
}

/** The bar of each row, −1 for a row in none. */
function barsOf(column: Column, { histogram, top }: ColumnProfile): { codes: Int32Array; count: number } {
  if (isCoded(column)) {
    const places = new Map(top.map(({ value }, place) => [value, place]));
    const placeOf = Int32Array.from(column.levels, (level) => places.get(level) ?? -1);
    const codes = new Int32Array(column.codes.length);
    for (let row = 0; row < codes.length; row++) {
      const code = column.codes[row] ?? -1;
      codes[row] = code < 0 ? -1 : (placeOf[code] ?? -1);
    }
    return { codes, count: top.length };
  }
  if (!histogram) return { codes: new Int32Array(column.values.length).fill(-1), count: 0 };
  const { low, high, counts } = histogram;
  const width = (high - low) / counts.length;
  const codes = new Int32Array(column.values.length);
  for (let row = 0; row < codes.length; row++) {
    const value = column.values[row] ?? NaN;
    codes[row] = Number.isNaN(value)
      ? -1
      : width > 0
        ? Math.min(counts.length - 1, Math.floor((value - low) / width))
        : 0;
  }
  return { codes, count: counts.length };
}
