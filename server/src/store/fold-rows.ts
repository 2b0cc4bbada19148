import type { Roles, Table } from '@modest-sieve/core/data';
import { usableRows } from '@modest-sieve/core/splitting';

/**
 * The rows that are assigned to folds: the training rows of a split, or all that take part where there is none.
 *
 * @returns 1 for each of them
 */
export const rowsForFolds = (table: Table, roles: Roles, parts: Int8Array | null): Uint8Array =>
  parts ? Uint8Array.from(parts, (part) => (part === 0 ? 1 : 0)) : usableRows(table, roles).usable;
