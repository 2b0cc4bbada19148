import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { cellText, columnNamed, isCoded, isMissing, type Table } from '../../data/table/table.js';
import { areAlike } from '../../data/table/same-rows.js';
import type { Roles } from '../../data/table/roles.js';
import { distinctRows, type RepeatedRows } from './repeated-rows.js';

export interface UsableRows {
  /** 1 for each row that takes part. */
  readonly usable: Uint8Array;
  readonly unlabelled: number;
  /** Rows that are dropped since they repeat an earlier one. */
  readonly repeated: number;
}

/**
 * The rows that can be split: those with a label and, where repeated rows are dropped, those that are the same as no
 * earlier one in every column.
 *
 * @throws SieveError `identifier-missing`, `identifier-repeated` when the identifier does not name each usable row
 */
export function usableRows(
  table: Table,
  roles: Pick<Roles, 'target' | 'identifier'>,
  repeatedRows: RepeatedRows = 'keep',
): UsableRows {
  const target = columnNamed(table, roles.target);
  const labelled = Uint8Array.from({ length: table.rowCount }, (_, row) => (isMissing(target, row) ? 0 : 1));
  const usable = repeatedRows === 'drop' ? distinctRows(table, labelled).usable : labelled;
  if (roles.identifier !== null) checkIdentifier(table, roles.identifier, usable);
  const rows = (of: Uint8Array) => of.reduce((n, one) => n + one, 0);
  return {
    usable,
    unlabelled: table.rowCount - rows(labelled),
    repeated: rows(labelled) - rows(usable),
  };
}

function checkIdentifier(table: Table, name: string, usable: Uint8Array): void {
  const column = columnNamed(table, name);
  // Codes and numbers name a row as well as its text does.
  const cells = isCoded(column) ? column.codes : column.values;
  const rowOf = new Map<number, number>();
  for (let row = 0; row < table.rowCount; row++) {
    if (usable[row] === 0) continue;
    if (isMissing(column, row)) {
      throw new SieveError('identifier-missing', `Row ${row + 1} has no ${name}, so it cannot be named.`, {
        field: name,
      });
    }
    const earlier = rowOf.get(at(cells, row));
    if (earlier !== undefined) {
      const named = `${name} ${cellText(column, row)} is in rows ${earlier + 1} and ${row + 1}`;
      throw new SieveError(
        'identifier-repeated',
        areAlike(table.columns, earlier, row)
          ? `${named}, which are the same in every column. Drop repeated rows, or choose another identifier.`
          : `${named}, which differ: it does not name one row.`,
        { field: name },
      );
    }
    rowOf.set(at(cells, row), row);
  }
}
