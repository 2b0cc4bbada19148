import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';

/** Numbers; a missing cell is NaN, which no readable number is. */
export interface NumberColumn {
  readonly kind: 'number';
  readonly name: string;
  readonly values: Float64Array;
}

/** How the cells of a time column are written; all cells of a column are written alike. */
export interface TimeFormat {
  /** Between date and time, or null where the cells are dates alone. */
  readonly separator: 'T' | ' ' | null;
  readonly seconds: boolean;
  /** Whether a Z for UTC follows. */
  readonly zulu: boolean;
}

/** Dates or date-times as milliseconds since 1970-01-01 UTC; a missing cell is NaN. */
export interface TimeColumn {
  readonly kind: 'time';
  readonly name: string;
  readonly values: Float64Array;
  readonly format: TimeFormat;
}

/** Texts by dictionary: `levels` are sorted by code unit, `codes` point into them, −1 is a missing cell. */
export interface CodedColumn {
  readonly kind: 'category' | 'boolean' | 'text';
  readonly name: string;
  readonly levels: readonly string[];
  readonly codes: Int32Array;
}

export type Column = NumberColumn | TimeColumn | CodedColumn;
export type ColumnKind = Column['kind'];

/** Columnar and never changed after it was made. Every column has `rowCount` cells. */
export interface Table {
  readonly rowCount: number;
  readonly columns: readonly Column[];
}

/** What a column of a kind holds, in words. */
export const KIND_WORDS: Readonly<Record<ColumnKind, string>> = {
  number: 'numbers',
  category: 'categories',
  text: 'texts',
  boolean: 'true and false',
  time: 'dates',
};

export const noSuchColumn = (name: string) =>
  new SieveError('no-such-column', `There is no column “${name}”.`, { field: name });

/** @throws SieveError `no-such-column` */
export function columnNamed(table: Table, name: string): Column {
  const column = table.columns.find((c) => c.name === name);
  if (!column) throw noSuchColumn(name);
  return column;
}

export function isCoded(column: Column): column is CodedColumn {
  return column.kind === 'category' || column.kind === 'boolean' || column.kind === 'text';
}

export function isMissing(column: Column, row: number): boolean {
  return isCoded(column) ? at(column.codes, row) < 0 : Number.isNaN(at(column.values, row));
}

/** A cell as it is written in a file; null where it is missing. */
export function cellText(column: Column, row: number): string | null {
  if (isMissing(column, row)) return null;
  if (isCoded(column)) return at(column.levels, at(column.codes, row));
  const value = at(column.values, row);
  return column.kind === 'number' ? String(value) : timeText(value, column.format);
}

/** All cells of a column as they are written; a missing one as an empty text. */
export function cellTexts(column: Column): string[] {
  if (isCoded(column)) return Array.from(column.codes, (code) => column.levels[code] ?? '');
  const { values } = column;
  const texts = new Array<string>(values.length);
  for (let row = 0; row < values.length; row++) {
    const value = values[row] ?? NaN;
    if (Number.isNaN(value)) texts[row] = '';
    else texts[row] = column.kind === 'number' ? String(value) : timeText(value, column.format);
  }
  return texts;
}

function timeText(value: number, format: TimeFormat): string {
  const iso = new Date(value).toISOString();
  if (format.separator === null) return iso.slice(0, 10);
  return `${iso.slice(0, 10)}${format.separator}${iso.slice(11, format.seconds ? 19 : 16)}${format.zulu ? 'Z' : ''}`;
}

/** The given rows of a column, in the given order; levels stay as they are. */
export function takeRows(column: Column, rows: ArrayLike<number>): Column {
  if (isCoded(column)) {
    const codes = new Int32Array(rows.length);
    for (let i = 0; i < rows.length; i++) codes[i] = column.codes[rows[i] ?? 0] ?? 0;
    return { ...column, codes };
  }
  const values = new Float64Array(rows.length);
  for (let i = 0; i < rows.length; i++) values[i] = column.values[rows[i] ?? 0] ?? 0;
  return { ...column, values };
}

/** The given rows and columns of a table, in the given order. */
export function selectRows(table: Table, rows: ArrayLike<number>, names?: readonly string[]): Table {
  const columns = names ? names.map((name) => columnNamed(table, name)) : table.columns;
  return { rowCount: rows.length, columns: columns.map((column) => takeRows(column, rows)) };
}
