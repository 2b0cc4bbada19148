import {
  cellText,
  checkRoles,
  chooseRows,
  columnNamed,
  correlations,
  labelsOf,
  orderByLikeness,
  pairOf,
  suggestTask,
  targetByValue,
  type ColumnProfile,
  type CorrelationMatrix,
  type ColumnInfo,
  type Pair,
  type Roles,
  type RowSelection,
  type Table,
  type TargetAtValue,
  type Task,
} from '@modest-sieve/core/data';
import { findingsOf, type Findings } from '@modest-sieve/core/audit';
import { tableOf, type StoredTable } from '../store/stored-table.js';
import { tasks } from '../platform/compute/task.js';

/** Rows as texts, with their numbers in the table, from 1. */
export interface PageOfRows {
  readonly numbers: number[];
  readonly rows: (string | null)[][];
}

const pageOf = (table: Table, rows: readonly number[], firstRow: number): PageOfRows => ({
  numbers: rows.map((row) => firstRow + row + 1),
  rows: rows.map((row) => table.columns.map((column) => cellText(column, row))),
});

/** Values of a column that are shown beside the target. */
const MOST_VALUES = 30;
const MOST_SUGGESTED_LABELS = 100;

/** What a look at a table asks for. */
export const LOOK_TASKS = tasks('quick', {
  findings({
    stored,
    roles,
    profile,
  }: {
    stored: StoredTable;
    roles: Roles | null;
    profile: ColumnProfile[];
  }): Findings {
    return findingsOf(tableOf(stored), roles, profile);
  },

  /** The target at the values of a column, at most so many: those with the most rows, in the column's order. */
  byValue({ stored, roles, column }: { stored: StoredTable; roles: Roles; column: string }): {
    readonly label: string | null;
    readonly values: TargetAtValue[];
    readonly more: number;
  } {
    const { label, values: all } = targetByValue(tableOf(stored), roles, column);
    const named = all.filter(({ value }) => value !== null);
    const kept = new Set(named.toSorted((a, b) => b.rows - a.rows).slice(0, MOST_VALUES));
    return {
      label,
      values: all.filter((one) => one.value === null || kept.has(one)),
      more: named.length - kept.size,
    };
  },

  pair({ stored, roles, x, y }: { stored: StoredTable; roles: Roles | null; x: string; y: string }): Pair {
    return pairOf(tableOf(stored), x, y, roles);
  },

  /** Correlations of the columns of numbers, those that go together next to one another. */
  correlations({
    stored,
    measure,
  }: {
    stored: StoredTable;
    measure: 'Pearson' | 'Spearman';
  }): CorrelationMatrix {
    const matrix = correlations(tableOf(stored), measure);
    const order = orderByLikeness(matrix);
    return {
      columns: order.map((i) => matrix.columns[i] ?? ''),
      values: order.map((i) => order.map((j) => matrix.values[i]?.[j] ?? null)),
    };
  },

  /** The texts of some rows, cell by cell; null for a missing one. */
  rows({ stored, from, to }: { stored: StoredTable; from: number; to: number }): PageOfRows {
    const rows = Array.from({ length: Math.max(0, to - from) }, (_, i) => from - stored.firstRow + i);
    return pageOf(tableOf(stored), rows, stored.firstRow);
  },

  /** The same of the rows that a selection holds, with how many it holds. */
  selectedRows({
    stored,
    selection,
    offset,
    limit,
  }: {
    stored: StoredTable;
    selection: RowSelection;
    offset: number;
    limit: number;
  }): PageOfRows & { readonly total: number } {
    const table = tableOf(stored);
    const selected = chooseRows(table, selection);
    return { ...pageOf(table, [...selected.subarray(offset, offset + limit)], 0), total: selected.length };
  },

  /** What a column suggests if it were the target: the task, and its first labels. */
  suggest({ stored, target }: { stored: StoredTable; target: string }): { task: Task; labels: string[] } {
    const column = columnNamed(tableOf(stored), target);
    return { task: suggestTask(column), labels: labelsOf(column).labels.slice(0, MOST_SUGGESTED_LABELS) };
  },

  checkRoles({
    stored,
    columns,
    roles,
  }: {
    stored: StoredTable;
    columns: readonly ColumnInfo[];
    roles: Roles;
  }): null {
    checkRoles(columns, columnNamed(tableOf(stored), roles.target), roles);
    return null;
  },
});
