import type { Table } from '../table/table.js';

export interface ReadOptions {
  /** Name used in errors. */
  readonly file: string;
  /** Cells that stand for "no value"; by default `MISSING_MARKERS`. */
  readonly missing?: readonly string[];
  /** Names of the columns to read, in this order; all of them where left out. */
  readonly only?: readonly string[];
  /** Which sheet of a workbook, or resource of a package; the first where left out. */
  readonly sheet?: string;
  /** Whether one of several sheets has to be chosen. */
  readonly mustChoose?: boolean;
}

/** A table as it was read; `notes` holds for each column what stopped it from being numeric, or null. */
export interface ReadTable {
  readonly table: Table;
  readonly notes: readonly (string | null)[];
  /** What else the person who imported the file should know, as sentences. */
  readonly remarks: readonly string[];
  /** What columns mean, by their names, where the file says so. */
  readonly descriptions?: Readonly<Record<string, string>>;
}
