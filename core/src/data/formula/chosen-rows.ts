import { truthOf } from './formula.js';
import { indices } from '../../foundation/numbers.js';
import { columnNamed, isCoded, isMissing, type Column, type Table } from '../table/table.js';

/** Which rows of a table are looked at, and in which order. */
export interface RowSelection {
  /** A condition, as formulas have it; null for all rows. */
  readonly where: string | null;
  /** The column to sort by; null for the order in which rows stand. */
  readonly sort: string | null;
  readonly descending: boolean;
}

/**
 * The rows for which the condition holds, by the values of the column, texts by code unit; rows with equal values stay
 * in their order, and missing values come last whichever way it goes.
 *
 * @throws SieveError `formula` with the field `where`, `no-such-column`
 */
export function chooseRows(table: Table, { where, sort, descending }: RowSelection): Int32Array {
  const holds = where === null ? null : truthOf(table, where, 'where');
  const rows = holds ? indices(table.rowCount).filter((row) => holds[row] === 1) : indices(table.rowCount);
  if (sort === null) return rows;
  const column = columnNamed(table, sort);
  const present = rows.filter((row) => !isMissing(column, row));
  const missing = rows.filter((row) => isMissing(column, row));
  const values = valuesOf(column);
  const way = descending ? -1 : 1;
  // Levels are sorted by code unit, so that codes are in the order of their texts.
  present.sort((a, b) => way * ((values[a] ?? 0) - (values[b] ?? 0)) || a - b);
  const out = new Int32Array(rows.length);
  out.set(present);
  out.set(missing, present.length);
  return out;
}

const valuesOf = (column: Column): Float64Array | Int32Array =>
  isCoded(column) ? column.codes : column.values;
