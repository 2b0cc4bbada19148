import { SieveError } from '../../foundation/errors.js';
import { cellText, isMissing, type Column, type Table } from '../table/table.js';
import type { ReadOptions, ReadTable } from './read-table.js';
import { alikeDates, saidBy, tableOfValues } from './values.js';

/** Bytes that a file may unpack to. */
const LARGEST_UNPACKED = 2 ** 31;

/**
 * Reads an Apache Parquet file with flat columns.
 *
 * @throws SieveError `parquet`, `too-large`, and as `tableOfValues`
 */
export async function readParquet(bytes: Uint8Array, options: ReadOptions): Promise<ReadTable> {
  const { file } = options;
  const { parquetMetadata, parquetRead, parquetSchema } = await import('hyparquet');
  const { compressors } = await import('hyparquet-compressors');
  const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
  try {
    const metadata = parquetMetadata(buffer);
    const unpacked = metadata.row_groups.reduce((n, group) => n + Number(group.total_byte_size), 0);
    if (unpacked > LARGEST_UNPACKED) throw tooLarge(file, unpacked);
    const children = parquetSchema(metadata).children;
    const nested = children.find((child) => child.children.length > 0);
    if (nested) {
      const name = nested.element.name;
      throw new SieveError(
        'cell',
        `${file}: “${name}” is a column of lists or records; a cell is a single value.`,
        {
          file,
          field: name,
        },
      );
    }
    const rowCount = Number(metadata.num_rows);
    const columns = new Map<string, unknown[]>(children.map((child) => [child.element.name, []]));
    // One column of one group of rows at a time: of several that fail at once, only one could be caught.
    let rowStart = 0;
    for (const group of metadata.row_groups) {
      const rowEnd = rowStart + Number(group.num_rows);
      for (const [name, values] of columns) {
        await parquetRead({
          file: { byteLength: buffer.byteLength, slice: (start, end) => buffer.slice(start, end) },
          metadata,
          compressors,
          columns: [name],
          rowStart,
          rowEnd,
          onChunk: (chunk) => {
            for (let i = 0; i < chunk.columnData.length; i++) {
              const row = chunk.rowStart + i;
              if (row >= rowStart && row < rowEnd) values[row] = chunk.columnData[i];
            }
          },
        });
      }
      rowStart = rowEnd;
    }
    const short = [...columns].find(([, values]) => values.length !== rowCount);
    if (short) throw damaged(file, `column “${short[0]}” has ${short[1].length} of ${rowCount} rows`);
    return tableOfValues(
      [...columns].map(([name, values]) => ({ name, values: alikeDates(values) })),
      rowCount,
      options,
    );
  } catch (error) {
    throw error instanceof SieveError ? error : damaged(file, saidBy(error));
  }
}

const damaged = (file: string, said: string) =>
  new SieveError('parquet', `${file} is no Parquet file that can be read, or was cut short (${said}).`, {
    file,
  });

const tooLarge = (file: string, bytes: number) =>
  new SieveError('too-large', `${file} unpacks to ${Math.round(bytes / 2 ** 20)} MB, which is too much.`, {
    file,
  });

/** A table as an Apache Parquet file: doubles, strings, booleans, and timestamps in milliseconds. */
export async function writeParquet(table: Table): Promise<Uint8Array> {
  const { parquetWriteBuffer } = await import('hyparquet-writer');
  const buffer = parquetWriteBuffer({
    columnData: table.columns.map((column) => ({
      name: column.name,
      data: Array.from({ length: table.rowCount }, (_, row) => parquetValue(column, row)),
      type: PARQUET_TYPES[column.kind],
      nullable: true,
    })),
  });
  return new Uint8Array(buffer);
}

const PARQUET_TYPES = {
  number: 'DOUBLE',
  time: 'TIMESTAMP',
  boolean: 'BOOLEAN',
  category: 'STRING',
  text: 'STRING',
} as const;

function parquetValue(column: Column, row: number): number | Date | boolean | string | null {
  if (isMissing(column, row)) return null;
  if (column.kind === 'number') return column.values[row] ?? null;
  if (column.kind === 'time') return new Date(column.values[row] ?? NaN);
  const text = cellText(column, row);
  return column.kind === 'boolean' ? text?.toLowerCase() === 'true' : text;
}
