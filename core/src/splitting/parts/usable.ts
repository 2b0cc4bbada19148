import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { cellText, columnNamed, isCoded, isMissing, type Table } from '../../data/table/table.js';
import { firstAlike } from '../../data/table/same-rows.js';
import type { Roles } from '../../data/table/roles.js';

export interface UsableRows {
  /** 1 for each row that takes part. */
  readonly usable: Uint8Array;
  readonly unlabelled: number;
  readonly repeated: number;
}

/**
 * The rows that can be split: those with a label that repeat no earlier row. A row that repeats another in every
 * cell would stand in training and held-out alike and give its own answer away.
 *
 * @throws SieveError `identifier-missing`, `identifier-repeated` when the identifier does not name each usable row
 */
export function usableRows(table: Table, roles: Pick<Roles, 'target' | 'identifier'>): UsableRows {
  const target = columnNamed(table, roles.target);
  const usable = new Uint8Array(table.rowCount);
  let unlabelled = 0;
  let repeated = 0;
  const isLabelled = (row: number) => !isMissing(target, row);
  firstAlike(table.columns, table.rowCount, isLabelled).forEach((first, row) => {
    if (first < 0) unlabelled++;
    else if (first < row) repeated++;
    else usable[row] = 1;
  });
  if (roles.identifier !== null) checkIdentifier(table, roles.identifier, usable);
  return { usable, unlabelled, repeated };
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
      throw new SieveError(
        'identifier-repeated',
        `${name} ${cellText(column, row)} is in rows ${earlier + 1} and ${row + 1}, which differ: it does not name one row.`,
        { field: name },
      );
    }
    rowOf.set(at(cells, row), row);
  }
}
