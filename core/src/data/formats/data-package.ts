import { strToU8, zipSync } from 'fflate';
import type { Step } from '../prepare/step.js';
import type { ColumnKind, Table } from '../table/table.js';
import { writeCsv } from './csv/write.js';

const FIELD_TYPES: Readonly<Record<ColumnKind, string>> = {
  number: 'number',
  category: 'string',
  text: 'string',
  boolean: 'boolean',
  time: 'datetime',
};

/** A day of the year 2000, so that the same table gives the same bytes. */
const MADE = new Date(2000, 0, 1);

/**
 * A table as a Data Package (Frictionless Data, Data Package 1.0 and Table Schema 1.0), zipped: the descriptor, the
 * table as CSV, and the steps that it was made by.
 *
 * @param name of the data set
 */
export function writeDataPackage(table: Table, name: string, steps: readonly Step[]): Uint8Array {
  const slug = slugOf(name);
  const descriptor = {
    profile: 'tabular-data-package',
    name: slug,
    title: name,
    resources: [
      {
        profile: 'tabular-data-resource',
        name: slug,
        path: `${slug}.csv`,
        format: 'csv',
        mediatype: 'text/csv',
        encoding: 'utf-8',
        schema: {
          fields: table.columns.map((column) => ({ name: column.name, ...typeOf(column) })),
          missingValues: [''],
        },
      },
    ],
  };
  const json = (value: unknown) => strToU8(`${JSON.stringify(value, null, 2)}\n`);
  return zipSync(
    {
      'datapackage.json': json(descriptor),
      [`${slug}.csv`]: strToU8(writeCsv(table)),
      'steps.json': json({ version: 1, steps }),
    },
    { mtime: MADE },
  );
}

function typeOf(column: Table['columns'][number]): { type: string; format?: string } {
  if (column.kind !== 'time') return { type: FIELD_TYPES[column.kind] };
  return column.format.separator === null ? { type: 'date' } : { type: 'datetime', format: 'any' };
}

/** "Hive records 2026" as part of a file name: "hive-records-2026". */
export const slugOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'table';
