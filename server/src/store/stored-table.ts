import {
  decodeColumn,
  encodeColumn,
  profileTable,
  type ColumnProfile,
  type Roles,
  type StepEffect,
  type Table,
} from '@modest-sieve/core/data';

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
  /** For each row the row of the raw table. */
  readonly origin: Int32Array;
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

export const tableOf = ({ rowCount, columns }: StoredTable): Table => ({
  rowCount,
  columns: columns.map((column) => decodeColumn(column.name, column.chunks)),
});

export const importedTable = (table: Table, notes?: readonly (string | null)[]): ImportedTable => ({
  rowCount: table.rowCount,
  profile: profileTable(table, notes),
  columns: table.columns.map((column) => ({ name: column.name, chunks: encodeColumn(column) })),
});
