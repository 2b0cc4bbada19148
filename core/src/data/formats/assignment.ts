import { SieveError } from '../../foundation/errors.js';
import { cellText, columnNamed, isMissing, type Table } from '../table/table.js';
import { writeRecords } from './csv/write.js';

/** What names the rows of a table in an assignment file: a column, or positions from 0. */
export interface RowNames {
  readonly header: string;
  readonly name: (row: number) => string;
}

/** @throws SieveError `identifier-missing`, `no-such-column` */
export function rowNames(table: Table, id: string | undefined): RowNames {
  if (id === undefined) return { header: 'row', name: String };
  const column = columnNamed(table, id);
  for (let row = 0; row < table.rowCount; row++) {
    if (isMissing(column, row))
      throw new SieveError('identifier-missing', `Row ${row + 1} has no ${id}, so it cannot be named.`, {
        field: id,
      });
  }
  return { header: id, name: (row) => cellText(column, row) ?? '' };
}

/** An assignment as CSV: the name of each row, and what it is assigned to. */
export const assignmentCsv = (
  names: RowNames,
  header: readonly string[],
  records: readonly (readonly [row: number, ...cells: (string | null)[]])[],
): string =>
  writeRecords(
    [names.header, ...header],
    records.map(([row, ...cells]) => [names.name(row), ...cells]),
  );
