import { SieveError } from '../../foundation/errors.js';
import { selectRows, type Column, type Table } from '../table/table.js';
import type { Applied } from './step.js';

/** The rows for which something holds, in their order. */
export function keepRows(table: Table, holds: (row: number) => boolean): Applied {
  const rows = new Int32Array(table.rowCount);
  let kept = 0;
  for (let row = 0; row < table.rowCount; row++) if (holds(row)) rows[kept++] = row;
  return kept === table.rowCount ? { table } : takeTableRows(table, rows.slice(0, kept));
}

/**
 * The given rows in the given order.
 *
 * @throws SieveError `step` where none is left
 */
export function takeTableRows(table: Table, rows: Int32Array): Applied {
  if (rows.length === 0) throw new SieveError('step', 'No row would be left.');
  return {
    table: selectRows(table, rows),
    rows,
  };
}

/** The columns that a parameter names; all of them where it names none. */
export const chosen = (table: Table, names: readonly string[]): readonly Column[] =>
  names.length === 0 ? table.columns : table.columns.filter((column) => names.includes(column.name));

/** @throws SieveError `step` where a column of that name is there already */
export function checkNew(table: Table, name: string, field: string): void {
  if (table.columns.some((column) => column.name === name))
    throw new SieveError('step', `There is a column “${name}” already.`, { field });
}
