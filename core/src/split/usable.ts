import { SieveError } from '../errors.js';
import { at } from '../numbers.js';
import { cellText, columnNamed, isCoded, isMissing, type Table } from '../table/table.js';
import type { Roles } from '../table/roles.js';

export interface UsableRows {
  /** 1 for each row that takes part. */
  readonly usable: Uint8Array;
  readonly unlabelled: number;
  readonly repeated: number;
}

/**
 * The rows that can be parted: those with a label that repeat no earlier row. A row that repeats another in every
 * cell would stand in training and held-out alike and give its own answer away.
 *
 * @throws SieveError `identifier-missing`, `identifier-repeated` when the identifier does not name each usable row
 */
export function usableRows(table: Table, roles: Pick<Roles, 'target' | 'identifier'>): UsableRows {
  const target = columnNamed(table, roles.target);
  const usable = new Uint8Array(table.rowCount);
  const seen = new Set<string>();
  let unlabelled = 0;
  let repeated = 0;
  for (let row = 0; row < table.rowCount; row++) {
    if (isMissing(target, row)) {
      unlabelled++;
      continue;
    }
    // Raw codes and numbers identify a row as well as its texts do, and are shorter to join.
    const key = table.columns.map((c) => String(at(isCoded(c) ? c.codes : c.values, row))).join('|');
    if (seen.has(key)) repeated++;
    else usable[row] = 1;
    seen.add(key);
  }
  if (roles.identifier !== null) checkIdentifier(table, roles.identifier, usable);
  return { usable, unlabelled, repeated };
}

function checkIdentifier(table: Table, name: string, usable: Uint8Array): void {
  const column = columnNamed(table, name);
  const rowOf = new Map<string, number>();
  for (let row = 0; row < table.rowCount; row++) {
    if (usable[row] === 0) continue;
    const id = cellText(column, row);
    if (id === null) {
      throw new SieveError('identifier-missing', `Row ${row + 1} has no ${name}, so it cannot be named.`, {
        field: name,
      });
    }
    const earlier = rowOf.get(id);
    if (earlier !== undefined) {
      throw new SieveError(
        'identifier-repeated',
        `${name} ${id} stands in rows ${earlier + 1} and ${row + 1}, which differ: it does not name one row.`,
        { field: name },
      );
    }
    rowOf.set(id, row);
  }
}
