import {
  appendRows,
  firstProblem,
  formatOf,
  joinByKey,
  prepare,
  previewPreparation,
  readTable,
  rolesAfter,
  writeDataPackage,
  type Combination,
  type PreparePreview,
  type Roles,
  type Step,
} from '@modest-sieve/core/data';
import {
  tableOf,
  importedTable,
  type ImportedTable,
  type PreparedTable,
  type StoredTable,
} from '../store/stored-table.js';
import { tasks } from '../platform/compute/task.js';

/** CSV, Parquet, or a Data Package. */
export const EXPORT_FORMATS = ['csv', 'parquet', 'zip'] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

/** Tables that are read, prepared and written. */
export const TABLE_TASKS = {
  ...tasks('tables', {
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
        onto.combination === 'append'
          ? appendRows(first, read.table)
          : joinByKey(first, read.table, onto.key);
      return { ...importedTable(table), descriptions: { ...descriptions } };
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
      const { table, origin, effects } = prepare(tableOf(stored), steps);
      const problem = firstProblem(steps, effects);
      if (problem) throw problem;
      return {
        ...importedTable(table),
        origin,
        effects: [...effects],
        roles: roles && rolesAfter(table, roles),
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
  }),
  ...tasks('quick', {
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
  }),
};
