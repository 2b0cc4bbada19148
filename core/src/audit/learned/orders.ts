import { at } from '../../foundation/numbers.js';
import { labelsOf } from '../../data/table/labels.js';
import { type Roles } from '../../data/table/roles.js';
import { columnNamed, isCoded, type Column, type Table } from '../../data/table/table.js';
import { identifierColumns } from './identifier-columns.js';

/** Rows that a model is fitted to, and that it is judged on, at most. */
const MOST_ROWS = 3000;
const MOST_ORDERS = 2;
const MOST_GROUPINGS = 1;

/** Columns that later rows of a table give, at most, for each row; large tables are looked at in a stretch. */
const STRETCH = 6000;

export interface Order {
  readonly name: string;
  readonly values: Float64Array;
}

/** Held-out rows alone where none, or too few, of the others lie in the stretch: one half is fitted to, the other judged. */
export function sides(fit: Int32Array, judge: Int32Array): [Int32Array, Int32Array] {
  if (fit.length >= 60 || judge.length < 120) return [fit, judge];
  const blocks = (even: boolean) =>
    judge.filter((_, i) => (Math.floor((i * 10) / judge.length) % 2 === 0) === even);
  return [blocks(true), blocks(false)];
}

/** As many rows, evenly spread, as a small model takes. */
export const thinned = (rows: Int32Array): Int32Array => {
  const step = Math.ceil(rows.length / MOST_ROWS);
  return rows.filter((_, i) => i % step === 0);
};

/** Of a long series the stretch with the first held-out rows in the middle. */
export function stretchOf(order: Int32Array, judged: ReadonlySet<number>): Int32Array {
  if (order.length <= STRETCH) return order;
  const first = order.findIndex((row) => judged.has(row));
  const from = Math.max(0, Math.min(order.length - STRETCH, first - STRETCH / 2));
  return order.slice(from, from + STRETCH);
}

/** Columns by which rows may follow one another: the role for time, dates, and numbers that nearly count the rows. */
export function ordersOf(table: Table, roles: Roles, features: readonly Column[], rows: Int32Array): Order[] {
  const found: Order[] = [];
  const add = (name: string, values: Float64Array) => {
    if (found.length < MOST_ORDERS && !found.some((order) => order.name === name))
      found.push({ name, values });
  };
  const time = roles.time === null ? null : columnNamed(table, roles.time);
  if (time && !isCoded(time)) add(time.name, time.values);
  for (const column of features) if (column.kind === 'time') add(column.name, column.values);
  if (roles.identifier !== null) {
    const [number] = identifierColumns(columnNamed(table, roles.identifier), table.rowCount);
    if (number && !isCoded(number) && isCounting(number.values, rows)) add(roles.identifier, number.values);
  }
  for (const column of features)
    if (column.kind === 'number' && isCounting(column.values, rows)) add(column.name, column.values);
  return found;
}

/** Whether values are whole numbers that lie as densely as counts do, as days or running numbers. */
function isCounting(values: Float64Array, rows: Int32Array): boolean {
  const distinct = new Set<number>();
  let [low, high] = [Infinity, -Infinity];
  for (const row of rows) {
    const value = at(values, row);
    if (!Number.isInteger(value)) return false;
    distinct.add(value);
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  return distinct.size >= 30 && distinct.size > 0.3 * (high - low + 1);
}

/** The series that rows may belong to: all one, by the group of the roles, by a category of a few values. */
export function groupingsOf(table: Table, roles: Roles, features: readonly Column[]): Int32Array[] {
  const named = [
    ...(roles.group === null ? [] : [roles.group]),
    ...features.flatMap((column) =>
      isCoded(column) && column.levels.length >= 2 && column.levels.length * 20 <= table.rowCount
        ? [column.name]
        : [],
    ),
  ];
  const groupings = [...new Set(named)]
    .slice(0, MOST_GROUPINGS)
    .map((name) => labelsOf(columnNamed(table, name)).codes);
  return [...groupings, new Int32Array(table.rowCount)];
}
