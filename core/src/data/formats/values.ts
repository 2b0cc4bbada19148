import { SieveError } from '../../foundation/errors.js';
import { MISSING_MARKERS } from '../table/cell.js';
import { gatherCells } from '../table/gather.js';
import { inferColumn, type InferredColumn } from '../table/infer.js';
import { noSuchColumn } from '../table/table.js';
import type { ReadOptions, ReadTable } from './read-table.js';

/** A column as a format with types of its own gives it. */
export interface ValueColumn {
  readonly name: string;
  readonly values: ArrayLike<unknown>;
}

/**
 * A table from columns of values. Types are inferred as for delimited text, so that a column is the same whatever
 * format it came in; numbers keep all their digits.
 *
 * @param lineOf the line on which a row is; the row itself, from 1, for formats without lines
 * @throws SieveError `cell` for a value that is no single cell, `no-rows`, `no-such-column`, `header`
 */
export function tableOfValues(
  columns: readonly ValueColumn[],
  rowCount: number,
  { file, missing, only }: ReadOptions,
  lineOf: (row: number) => number = (row) => row + 1,
): ReadTable {
  if (columns.length === 0) throw new SieveError('header', `${file} has no columns.`, { file });
  if (rowCount === 0) throw new SieveError('no-rows', `${file} has no rows.`, { file });
  checkNames(columns, file);
  const markers = new Set(missing ?? MISSING_MARKERS);
  const wanted = only
    ? only.map((name) => {
        const column = columns.find((c) => c.name === name);
        if (!column) throw noSuchColumn(name);
        return column;
      })
    : columns;
  const inferred = wanted.map((column): InferredColumn => {
    const numbers = plainNumbers(column.values, rowCount);
    if (numbers) return { column: { kind: 'number', name: column.name, values: numbers }, note: null };
    const cell = (row: number) =>
      cellOf(column.values[row], { file, row, name: column.name, line: lineOf(row) });
    return inferColumn(column.name, gatherCells(rowCount, cell, lineOf, markers));
  });
  return {
    table: { rowCount, columns: inferred.map((i) => i.column) },
    notes: inferred.map((i) => i.note),
    remarks: [],
  };
}

function checkNames(columns: readonly ValueColumn[], file: string): void {
  const seen = new Set<string>();
  columns.forEach(({ name }, i) => {
    if (name.trim() === '')
      throw new SieveError('header', `${file}: column ${i + 1} has no name. Give every column a name.`, {
        file,
        column: i + 1,
      });
    if (seen.has(name))
      throw new SieveError('header', `${file}: two columns are called “${name}”.`, { file, field: name });
    seen.add(name);
  });
}

/** Values that are all finite numbers, NaN or lacking, as they are; null where any is something else. */
function plainNumbers(values: ArrayLike<unknown>, rowCount: number): Float64Array | null {
  const out = new Float64Array(rowCount);
  for (let row = 0; row < rowCount; row++) {
    const value = values[row];
    if (typeof value === 'number' && value !== Infinity && value !== -Infinity) out[row] = value;
    else if (value === null || value === undefined) out[row] = NaN;
    else return null;
  }
  return out;
}

interface CellPlace {
  readonly file: string;
  readonly row: number;
  readonly line: number;
  readonly name: string;
}

/** A value as the text that a delimited file would hold; null where there is none. */
function cellOf(value: unknown, place: CellPlace): string | null {
  if (value === null || value === undefined) return null;
  if (typeof value === 'string') return value;
  if (typeof value === 'number' || typeof value === 'bigint' || typeof value === 'boolean')
    return String(value);
  if (value instanceof Date) return textOfDate(value);
  throw new SieveError(
    'cell',
    `${place.file}, row ${place.row + 1}: “${place.name}” holds ${whatIs(value)}; a cell is a text, a number, a date, true or false.`,
    { file: place.file, line: place.line, field: place.name },
  );
}

const whatIs = (value: unknown): string =>
  Array.isArray(value) ? 'a list' : ArrayBuffer.isView(value) ? 'raw bytes' : 'an object';

/** A point in time as ISO 8601, without the time of day where it is midnight; null where it is none. */
function textOfDate(value: Date): string | null {
  if (Number.isNaN(value.getTime())) return null;
  const iso = value.toISOString();
  return iso.endsWith('T00:00:00.000Z') ? iso.slice(0, 10) : iso.slice(0, 19);
}

/**
 * Dates of one column written alike: with the time of day if any of them has one.
 */
export function alikeDates(values: ArrayLike<unknown>): ArrayLike<unknown> {
  let withTime = false;
  let dates = false;
  for (let i = 0; i < values.length; i++) {
    const value = values[i];
    if (!(value instanceof Date) || Number.isNaN(value.getTime())) continue;
    dates = true;
    if (!value.toISOString().endsWith('T00:00:00.000Z')) withTime = true;
  }
  if (!dates || !withTime) return values;
  return Array.from({ length: values.length }, (_, i) => {
    const value = values[i];
    return value instanceof Date && !Number.isNaN(value.getTime()) ? value.toISOString().slice(0, 19) : value;
  });
}

/** Columns from records; a name is a column from the record on in which it first occurs. */
export function columnsOfRecords(records: readonly ReadonlyMap<string, unknown>[]): ValueColumn[] {
  const columns = new Map<string, unknown[]>();
  records.forEach((record, row) => {
    for (const [name, value] of record) {
      let values = columns.get(name);
      if (!values) {
        values = new Array<unknown>(records.length).fill(null);
        columns.set(name, values);
      }
      values[row] = value;
    }
  });
  return [...columns].map(([name, values]) => ({ name, values }));
}

/** The line and column, from 1, of a position in a text. */
export function placeOf(text: string, position: number): { line: number; column: number } {
  let line = 1;
  let start = 0;
  for (let end = text.indexOf('\n'); end >= 0 && end < position; end = text.indexOf('\n', end + 1)) {
    line++;
    start = end + 1;
  }
  return { line, column: position - start + 1 };
}

/** What a library said of a file that it could not read, as the end of a sentence. */
export const saidBy = (error: unknown): string =>
  (error instanceof Error ? error.message : String(error)).replace(/\.?\s*$/, '').slice(0, 200);
