import { count, SieveError } from '@modest-sieve/core/foundation';
import { rowNames, type Roles } from '@modest-sieve/core/data';
import {
  assignmentOf,
  foldCsv,
  makeFolds,
  repeatedRowsOf,
  splitRows,
  usableRows,
  type FoldAssignment,
  type FoldSentence,
  type SplitPlan,
} from '@modest-sieve/core/splitting';
import {
  foldConsequences,
  splitConsequences,
  seedSensitivity,
  type FoldConsequences,
  type ReservedRows,
  type SplitConsequences,
  type SeedSensitivity,
} from '@modest-sieve/core/audit';
import { rowsForFolds } from '../store/fold-rows.js';
import { tableOf, type StoredTable } from '../store/stored-table.js';
import { tasks } from '../platform/compute/task.js';

/** Lines that a fold table may have: rows times repeats. */
const MOST_FOLD_LINES = 10_000_000;

interface FoldedRows {
  readonly stored: StoredTable;
  readonly roles: Roles;
  /** Of the split whose training rows are assigned; null for all rows that take part. */
  readonly parts: Int8Array | null;
}

function refuseLong(repeats: number, usable: Uint8Array): void {
  const lines = repeats * usable.reduce((n, one) => n + one, 0);
  if (lines > MOST_FOLD_LINES)
    throw new SieveError(
      'fold-plan',
      `${count(repeats)} repeats would make a fold table of ${count(lines)} lines; at most ${count(MOST_FOLD_LINES)} are kept.`,
      { field: 'repeats' },
    );
}

/** Rows that are split, or assigned to folds. */
export const SPLIT_TASKS = tasks('quick', {
  split({
    stored,
    roles,
    plan,
    reserve,
  }: {
    stored: StoredTable;
    roles: Roles;
    plan: SplitPlan;
    reserve: ReservedRows;
  }): {
    parts: Int8Array;
    method: string;
    consequences: SplitConsequences;
  } {
    const table = tableOf(stored);
    const used = usableRows(table, roles, repeatedRowsOf(plan));
    const split = splitRows(table, plan, used.usable, reserve.held);
    const { parts, method } = split;
    return { parts, method, consequences: splitConsequences(table, roles, used, split, reserve) };
  },

  seedSensitivity({
    stored,
    roles,
    plan,
  }: {
    stored: StoredTable;
    roles: Roles;
    plan: SplitPlan;
  }): SeedSensitivity {
    const table = tableOf(stored);
    return seedSensitivity(table, roles, usableRows(table, roles, repeatedRowsOf(plan)), plan);
  },

  /** Folds of all rows that take part, or of those that a split trains on. */
  folds({ stored, roles, parts, plan }: FoldedRows & { plan: FoldSentence }): {
    assignment: FoldAssignment;
    consequences: FoldConsequences;
  } {
    const table = tableOf(stored);
    const { asked, usable } = rowsForFolds(table, roles, parts, plan);
    const folds = makeFolds(table, asked, usable);
    refuseLong(folds.tests.length, usable);
    const consequences = foldConsequences(table, roles, asked, folds, usable);
    return { assignment: assignmentOf(folds), consequences };
  },

  foldTable({
    stored,
    roles,
    parts,
    plan,
    folds,
  }: FoldedRows & { plan: FoldSentence; folds: FoldAssignment }): string {
    const table = tableOf(stored);
    const { usable } = rowsForFolds(table, roles, parts, plan);
    const rows = Int32Array.from(usable.keys()).filter((row) => usable[row] === 1);
    return foldCsv(rowNames(table, roles.identifier ?? undefined), folds, rows);
  },
});
