import {
  appendRows,
  assignmentOf,
  cellText,
  chooseRows,
  checkRoles,
  columnNamed,
  correlations,
  count,
  decodeColumn,
  encodeColumn,
  findingsOf,
  firstProblem,
  foldConsequences,
  foldCsv,
  foldPlanOf,
  formatOf,
  joinByKey,
  labelsOf,
  makeFolds,
  makePack,
  markSubmission,
  metricNamed,
  orderByLikeness,
  pairOf,
  prepare,
  previewPreparation,
  profileTable,
  readTable,
  rolesAfter,
  rowNames,
  SieveError,
  splitConsequences,
  splitRecord,
  splitRows,
  suggestTask,
  targetByValue,
  usableRows,
  writeDataPackage,
  type AnswerKey,
  type ColumnProfile,
  type Combination,
  type CorrelationMatrix,
  type Findings,
  type FoldAssignment,
  type FoldConsequences,
  type FoldSentence,
  type Kinded,
  type MarkScheme,
  type Pack,
  type Pair,
  type PreparePreview,
  type PredictionRules,
  type Result,
  type Roles,
  type RowSelection,
  type SplitConsequences,
  type SplitPlan,
  type SplitRecord,
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

const importedTable = (table: Table, notes?: readonly (string | null)[]): ImportedTable => ({
  rowCount: table.rowCount,
  profile: profileTable(table, notes),
  columns: table.columns.map((column) => ({ name: column.name, chunks: encodeColumn(column) })),
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
/** Lines that a fold table may have: rows times repeats. */
const MOST_FOLD_LINES = 20_000_000;

interface FoldedRows {
  readonly stored: StoredTable;
  readonly roles: Roles;
  /** Of the split whose training rows are dealt; null for all rows that take part. */
  readonly parts: Int8Array | null;
}

const dealtRows = (table: Table, roles: Roles, parts: Int8Array | null): Uint8Array =>
  parts ? Uint8Array.from(parts, (part) => (part === 0 ? 1 : 0)) : usableRows(table, roles).usable;

function refuseLong(repeats: number, usable: Uint8Array): void {
  const lines = repeats * usable.reduce((n, one) => n + one, 0);
  if (lines > MOST_FOLD_LINES)
    throw new SieveError(
      'fold-plan',
      `${count(repeats)} repeats would make a fold table of ${count(lines)} lines; at most ${count(MOST_FOLD_LINES)} are kept.`,
      { field: 'repeats' },
    );
}

/** What runs in worker threads. Arguments and results are plain data. */
export const TASKS = {
  /** Reads a file; `onto` is the table that its rows or columns are put to. */
  async importTable({
    bytes,
    file,
    sheet,
    onto,
  }: {
    bytes: Uint8Array;
    file: string;
    sheet?: string;
    onto: { stored: StoredTable; combination: Combination; key: string } | null;
  }): Promise<ImportedTable & { descriptions: Record<string, string> }> {
    const read = await readTable(bytes, {
      file,
      mustChoose: true,
      ...(sheet === undefined ? {} : { sheet }),
    });
    const { descriptions } = read;
    if (!onto) return { ...importedTable(read.table, read.notes), descriptions: { ...descriptions } };
    const first = tableOf(onto.stored);
    const table =
      onto.combination === 'append' ? appendRows(first, read.table) : joinByKey(first, read.table, onto.key);
    return { ...importedTable(table), descriptions: { ...descriptions } };
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
      ...importedTable(table),
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

  checkRoles({
    stored,
    columns,
    roles,
  }: {
    stored: StoredTable;
    columns: readonly Kinded[];
    roles: Roles;
  }): null {
    checkRoles(columns, columnNamed(tableOf(stored), roles.target), roles);
    return null;
  },

  split({ stored, roles, plan }: { stored: StoredTable; roles: Roles; plan: SplitPlan }): {
    parts: Int8Array;
    method: string;
    consequences: SplitConsequences;
  } {
    const table = tableOf(stored);
    const used = usableRows(table, roles);
    const split = splitRows(table, plan, used.usable);
    const { parts, method } = split;
    return { parts, method, consequences: splitConsequences(table, roles, used, split) };
  },

  splitRecord({ stored, roles, plan }: { stored: StoredTable; roles: Roles; plan: SplitPlan }): SplitRecord {
    const table = tableOf(stored);
    return splitRecord(table, roles, usableRows(table, roles), plan);
  },

  /** Folds of all rows that take part, or of those that a split trains on. */
  folds({ stored, roles, parts, plan }: FoldedRows & { plan: FoldSentence }): {
    assignment: FoldAssignment;
    consequences: FoldConsequences;
  } {
    const table = tableOf(stored);
    const usable = dealtRows(table, roles, parts);
    const asked = foldPlanOf(plan, table.columns);
    const folds = makeFolds(table, asked, usable);
    refuseLong(folds.tests.length, usable);
    const consequences = foldConsequences(table, roles, asked, folds, usable);
    return { assignment: assignmentOf(folds), consequences };
  },

  foldTable({ stored, roles, parts, folds }: FoldedRows & { folds: FoldAssignment }): string {
    const table = tableOf(stored);
    const usable = dealtRows(table, roles, parts);
    const rows = Int32Array.from(usable.keys()).filter((row) => usable[row] === 1);
    return foldCsv(rowNames(table, roles.identifier ?? undefined), folds, rows);
  },

  pack(request: {
    stored: StoredTable;
    roles: Roles;
    plan: SplitPlan;
    parts: Int8Array;
    folds: FoldAssignment | null;
    descriptions: Readonly<Record<string, string>>;
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
