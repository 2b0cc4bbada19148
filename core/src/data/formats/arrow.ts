import { SieveError } from '../../foundation/errors.js';
import type { ReadOptions, ReadTable } from './read-table.js';
import { alikeDates, saidBy, tableOfValues } from './values.js';

const MAGIC = 'ARROW1';
/** What ends a stream of Arrow messages: a continuation mark and a length of nought. */
const END_OF_STREAM = [0xff, 0xff, 0xff, 0xff, 0, 0, 0, 0];

/**
 * Reads Apache Arrow's IPC format, as a file (Feather 2) or as a stream, with flat columns.
 *
 * @throws SieveError `arrow`, and as `tableOfValues`
 */
export async function readArrow(bytes: Uint8Array, options: ReadOptions): Promise<ReadTable> {
  const { file } = options;
  const { DataType, tableFromIPC } = await import('apache-arrow');
  if (!isWhole(bytes)) throw damaged(file, 'its end is missing');
  try {
    const table = tableFromIPC(bytes);
    const columns = table.schema.fields.map((field, c) => {
      const vector = table.getChildAt(c);
      const isTime = DataType.isDate(field.type) || DataType.isTimestamp(field.type);
      const values: unknown[] = Array.from({ length: table.numRows }, (_, row) => {
        const value: unknown = vector?.get(row);
        return isTime && value !== null ? new Date(Number(value)) : value;
      });
      return { name: field.name, values: alikeDates(values) };
    });
    return tableOfValues(columns, table.numRows, options);
  } catch (error) {
    throw error instanceof SieveError ? error : damaged(file, saidBy(error));
  }
}

/** A file ends with its mark, a stream with its end: otherwise rows may be missing. */
function isWhole(bytes: Uint8Array): boolean {
  const text = (part: Uint8Array) => new TextDecoder('windows-1252').decode(part);
  if (text(bytes.subarray(0, MAGIC.length)) === MAGIC) return text(bytes.subarray(-MAGIC.length)) === MAGIC;
  return END_OF_STREAM.every((byte, i) => bytes[bytes.length - END_OF_STREAM.length + i] === byte);
}

const damaged = (file: string, said: string) =>
  new SieveError('arrow', `${file} is no Arrow file that can be read, or was cut short (${said}).`, { file });
