import { matchRows } from '@modest-sieve/core/assessment';
import { prepare, type Step } from '@modest-sieve/core/data';
import { tasks } from '../platform/compute/task.js';
import { tableOf, type StoredTable } from '../store/stored-table.js';

/** Rows of one table that are found in another. */
export const RESERVE_TASKS = tasks('packs', {
  /** For each row of a prepared version the row of its raw table. */
  origins({ stored, steps }: { stored: StoredTable; steps: readonly Step[] }): Int32Array {
    return prepare(tableOf(stored), steps).origin;
  },

  /** For each row of a table the same row of another one, or −1. */
  matchRows({
    stored,
    onto,
    ...by
  }: {
    stored: StoredTable;
    onto: StoredTable;
    identifier: string | null;
    targets: readonly string[];
  }): Int32Array {
    return matchRows(tableOf(stored), tableOf(onto), by).rows;
  },
});
