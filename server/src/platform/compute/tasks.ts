import {
  cellText,
  chooseRows,
  checkRoles,
  columnNamed,
  decodeColumn,
  encodeColumn,
  findingsOf,
  firstProblem,
  formatOf,
  labelsOf,
  makePack,
  markSubmission,
  methodOf,
  metricNamed,
  prepare,
  previewPreparation,
  profileTable,
  readTable,
  rolesAfter,
  splitConsequences,
  splitRows,
  suggestTask,
  targetByValue,
  usableRows,
  writeDataPackage,
  type AnswerKey,
  type ColumnProfile,
  type Findings,
  type MarkScheme,
  type Pack,
  type PreparePreview,
  type PredictionRules,
  type Result,
  type Roles,
  type RowSelection,
  type SplitConsequences,
  type SplitPlan,
  type Step,
  type StepEffect,
  type Table,
  type TargetAtValue,
  type Task,
} from '@modest-sieve/core';

/** A column as it is stored: its name and its chunks. */
export interface StoredColumn {
  readonly name: string;
  readonly chunks: readonly Uint8Array[];
}

export interface ImportedTable {
  readonly rowCount: number;
  readonly profile: ColumnProfile[];
  readonly columns: StoredColumn[];
}

export interface PreparedTable extends ImportedTable {
  readonly effects: StepEffect[];
  /** Those of the columns that are still there; null where the target is not, or fits its task no more. */
  readonly roles: Roles | null;
}

/** A table, or the rows of it from `firstRow` on, as it is stored. */
export interface StoredTable {
  readonly firstRow: number;
  readonly rowCount: number;
  readonly columns: readonly StoredColumn[];
}

const tableOf = ({ rowCount, columns }: StoredTable): Table => ({
  rowCount,
  columns: columns.map((column) => decodeColumn(column.name, column.chunks)),
});

/** CSV, Parquet, or a Data Package. */
export const EXPORT_FORMATS = ['csv', 'parquet', 'zip'] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

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

/** What runs in worker threads. Arguments and results are plain data. */
export const TASKS = {
  async importTable({ bytes, file }: { bytes: Uint8Array; file: string }): Promise<ImportedTable> {
    const { table, notes } = await readTable(bytes, { file });
    return {
      rowCount: table.rowCount,
      profile: profileTable(table, notes),
      columns: table.columns.map((column) => ({ name: column.name, chunks: encodeColumn(column) })),
    };
  },

  previewPreparation({
    stored,
    steps,
    chosen,
  }: {
    stored: StoredTable;
    steps: readonly Step[];
    chosen: number | null;
  }): PreparePreview {
    return previewPreparation(tableOf(stored), steps, chosen);
  },

  /** What steps make of a raw table, and of the roles of its columns. A step that does not fit is an error. */
  prepare({
    stored,
    steps,
    roles,
  }: {
    stored: StoredTable;
    steps: readonly Step[];
    roles: Roles | null;
  }): PreparedTable {
    const { table, effects } = prepare(tableOf(stored), steps);
    const problem = firstProblem(steps, effects);
    if (problem) throw problem;
    return {
      rowCount: table.rowCount,
      profile: profileTable(table),
      columns: table.columns.map((column) => ({ name: column.name, chunks: encodeColumn(column) })),
      effects: [...effects],
      roles: roles && rolesAfter(table, roles),
    };
  },

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
    readonly values: TargetAtValue[];
    readonly more: number;
  } {
    const all = targetByValue(tableOf(stored), roles, column);
    const kept = new Set(all.toSorted((a, b) => b.rows - a.rows).slice(0, MOST_VALUES));
    return { values: all.filter((value) => kept.has(value)), more: all.length - kept.size };
  },

  /** A table as a file that others read. */
  async exportTable({
    stored,
    format,
    name,
    steps,
  }: {
    stored: StoredTable;
    format: ExportFormat;
    name: string;
    steps: readonly Step[];
  }): Promise<Uint8Array> {
    const table = tableOf(stored);
    if (format === 'zip') return writeDataPackage(table, name, steps);
    const written = await formatOf(`table.${format}`)?.write?.(table);
    return typeof written === 'string' ? Buffer.from(written) : (written ?? new Uint8Array());
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

  checkRoles({ stored, names, roles }: { stored: StoredTable; names: string[]; roles: Roles }): null {
    checkRoles(names, columnNamed(tableOf(stored), roles.target), roles);
    return null;
  },

  split({ stored, roles, plan }: { stored: StoredTable; roles: Roles; plan: SplitPlan }): {
    parts: Int8Array;
    method: string;
    consequences: SplitConsequences;
  } {
    const table = tableOf(stored);
    const used = usableRows(table, roles);
    const parts = splitRows(table, plan, used.usable);
    return {
      parts,
      method: methodOf(plan),
      consequences: splitConsequences(table, roles, plan, used, parts),
    };
  },

  pack(request: {
    stored: StoredTable;
    roles: Roles;
    plan: SplitPlan;
    parts: Int8Array;
    metric: string;
    brief: string;
    feedbackShare: number;
    secretSeed: number;
  }): Pack {
    const { stored, metric, ...rest } = request;
    return makePack({
      ...rest,
      table: tableOf(stored),
      metric: metricNamed(metric),
    });
  },

  mark(request: {
    bytes: Uint8Array;
    file: string;
    rules: PredictionRules;
    key: AnswerKey;
    metric: string;
    scheme: MarkScheme;
    seed: number;
  }): Result {
    const { bytes, file, rules, key, ...marking } = request;
    return markSubmission(bytes, file, rules, key, marking);
  },
} as const;

export type TaskName = keyof typeof TASKS;
export type TaskInput<N extends TaskName> = Parameters<(typeof TASKS)[N]>[0];
export type TaskOutput<N extends TaskName> = Awaited<ReturnType<(typeof TASKS)[N]>>;

/** What a thread answers: the output, or an error of the reader's material, which must not lose its code on the way. */
export type TaskAnswer<N extends TaskName> =
  | { readonly output: TaskOutput<N> }
  | { readonly error: { readonly code: string; readonly message: string; readonly place: object } };
