import { parse } from 'lossless-json';
import { SieveError } from '../../foundation/errors.js';
import { cellText, isCoded, isMissing, type Column, type Table } from '../table/table.js';
import { refuseForeign, decodeText } from './sniff.js';
import type { ReadOptions, ReadTable } from './read-table.js';
import { columnsOfRecords, placeOf, saidBy, tableOfValues } from './values.js';

/** Numbers as they are written, so that none loses a digit before types are inferred. */
const parseText = (text: string): unknown => parse(text, undefined, (number) => number);

/**
 * Reads a JSON list of flat records.
 *
 * @throws SieveError as `refuseForeign`, `json` with line and column, `json-shape`, and as `tableOfValues`
 */
export function readJson(bytes: Uint8Array, options: ReadOptions): ReadTable {
  const { file } = options;
  refuseForeign(bytes, file);
  const text = decodeText(bytes);
  let value: unknown;
  try {
    value = parseText(text);
  } catch (error) {
    throw jsonError(error, text, file, 0);
  }
  if (!Array.isArray(value))
    throw new SieveError('json-shape', `${file} holds no list: a table is a list of records.`, { file });
  const records = value.map((record: unknown, row) => recordOf(record, file, `record ${row + 1}`));
  return tableOfValues(columnsOfRecords(records), records.length, options);
}

/**
 * Reads JSON records, one on each line (NDJSON, JSON Lines). Blank lines are passed over.
 *
 * @throws SieveError as `readJson`
 */
export function readNdjson(bytes: Uint8Array, options: ReadOptions): ReadTable {
  const { file } = options;
  refuseForeign(bytes, file);
  const lines: number[] = [];
  const records = decodeText(bytes)
    .split('\n')
    .flatMap((text, i) => {
      if (text.trim() === '') return [];
      lines.push(i + 1);
      try {
        return [recordOf(parseText(text), file, `line ${i + 1}`)];
      } catch (error) {
        throw error instanceof SieveError ? error : jsonError(error, text, file, i);
      }
    });
  return tableOfValues(columnsOfRecords(records), records.length, options, (row) => lines[row] ?? row + 1);
}

function recordOf(record: unknown, file: string, where: string): Map<string, unknown> {
  if (typeof record === 'object' && record !== null && !Array.isArray(record))
    return new Map(Object.entries(record));
  throw new SieveError('json-shape', `${file}, ${where}: this is no record of names and values.`, { file });
}

function jsonError(error: unknown, text: string, file: string, linesBefore: number): SieveError {
  const said = saidBy(error);
  const position = Number(/ at position (\d+)/.exec(said)?.[1] ?? text.length);
  const place = placeOf(text, position);
  const line = place.line + linesBefore;
  return new SieveError(
    'json',
    `${file}, line ${line}, column ${place.column}: this is not JSON (${said.replace(/ at position \d+.*$/, '')}).`,
    { file, line, column: place.column },
  );
}

/** A table as a JSON list of records, one on each line; missing cells are null, times are texts. */
export function writeJson(table: Table): string {
  const records = Array.from(
    { length: table.rowCount },
    (_, row) =>
      `{${table.columns.map((column) => `${JSON.stringify(column.name)}:${jsonCell(column, row)}`).join(',')}}`,
  );
  return `[\n${records.join(',\n')}\n]\n`;
}

function jsonCell(column: Column, row: number): string {
  if (isMissing(column, row)) return 'null';
  const text = cellText(column, row) ?? '';
  if (column.kind === 'number') return text;
  return isCoded(column) && column.kind === 'boolean' ? text.toLowerCase() : JSON.stringify(text);
}
