import { count, counted } from '../numbers.js';
import { byCodeUnit } from './order.js';
import type { Column, TimeFormat } from './table.js';

/** Cells that stand for "no value", compared as they are written. */
export const MISSING_MARKERS: readonly string[] = ['', ' ', 'NA', 'N/A', 'NaN', 'null', '?'];

/** The cells of one column as they were read: distinct texts, and for every row the index of its text. */
export interface RawColumn {
  readonly name: string;
  readonly texts: readonly string[];
  /** For each text, the line of the file on which it first occurs. */
  readonly firstLines: readonly number[];
  readonly codes: Int32Array;
}

/** A typed column, and in a sentence what stopped it from being numeric, if anything did. */
export interface InferredColumn {
  readonly column: Column;
  readonly note: string | null;
}

const NUMBER = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;
const LEADING_ZERO = /^[+-]?0\d/;
const TIME = /^(\d{4})-(\d\d)-(\d\d)(?:([T ])(\d\d):(\d\d)(?::(\d\d))?(Z)?)?$/;

/** A text column has more distinct values than this, and more than half of its cells are distinct. */
const MOST_LEVELS_OF_SMALL_CATEGORY = 20;

type CellType = 'number' | 'code' | 'time' | 'boolean' | 'text';

/** What a single cell could be. Codes with leading zeros and integers past 2^53 are not numbers: they would lose digits. */
function typeOfCell(text: string): CellType {
  const trimmed = text.trim();
  if (NUMBER.test(trimmed)) {
    const value = Number(trimmed);
    const exact = !/^[+-]?\d+$/.test(trimmed) || Number.isSafeInteger(value);
    return LEADING_ZERO.test(trimmed) || !exact || !Number.isFinite(value) ? 'code' : 'number';
  }
  if (parseTime(text)) return 'time';
  return /^(true|false)$/i.test(text) ? 'boolean' : 'text';
}

function parseTime(text: string): { value: number; format: TimeFormat } | null {
  const match = TIME.exec(text);
  if (!match) return null;
  const [, year, month, day, separator, hour, minute, second, zulu] = match;
  const value = Date.UTC(
    Number(year),
    Number(month) - 1,
    Number(day),
    Number(hour ?? 0),
    Number(minute ?? 0),
    Number(second ?? 0),
  );
  const format: TimeFormat = {
    separator: separator === 'T' || separator === ' ' ? separator : null,
    seconds: second !== undefined,
    zulu: zulu !== undefined,
  };
  // Date.UTC carries the 30th of February over into March; such a cell is no date.
  const back = new Date(value).toISOString();
  const same =
    back.slice(0, 10) === text.slice(0, 10) &&
    (hour === undefined || back.slice(11, 16) === `${hour}:${minute}`);
  return same ? { value, format } : null;
}

/**
 * Decides a column's type from all of its cells.
 *
 * Number if every present cell is a number; time if every present cell is an ISO 8601 date or date-time written
 * alike; boolean if all are true or false; else category, or text where most cells differ.
 */
export function inferColumn(raw: RawColumn, markers: readonly string[] = MISSING_MARKERS): InferredColumn {
  const missing = new Set(markers);
  const present = raw.texts.map((text) => !missing.has(text));
  const cellsOf = new Array<number>(raw.texts.length).fill(0);
  for (const code of raw.codes) cellsOf[code] = (cellsOf[code] ?? 0) + 1;
  const types = raw.texts.map((text, i) => (present[i] ? typeOfCell(text) : null));
  const seen = new Set(types.filter((type) => type !== null));

  if (seen.size === 1 && seen.has('number')) {
    return { column: { kind: 'number', name: raw.name, values: spread(raw, present, Number) }, note: null };
  }
  if (seen.size === 1 && seen.has('time')) {
    const times = raw.texts.map((text, i) => (present[i] ? parseTime(text) : null));
    const formats = new Set(times.filter((t) => t !== null).map((t) => JSON.stringify(t.format)));
    const format = times.find((t) => t !== null)?.format;
    if (formats.size === 1 && format) {
      const values = spread(raw, present, (text) => parseTime(text)?.value ?? NaN);
      return { column: { kind: 'time', name: raw.name, values, format }, note: null };
    }
  }
  const presentCells = cellsOf.reduce((total, cells, i) => total + (present[i] ? cells : 0), 0);
  const distinct = present.filter(Boolean).length;
  const boolean = seen.size === 1 && seen.has('boolean');
  const text = distinct > MOST_LEVELS_OF_SMALL_CATEGORY && distinct > presentCells / 2;
  const kind = boolean ? 'boolean' : text ? 'text' : 'category';
  return { column: codedColumn(raw, present, kind), note: notNumericNote(raw, types, cellsOf, presentCells) };
}

function spread(raw: RawColumn, present: readonly boolean[], read: (text: string) => number): Float64Array {
  const valueOf = raw.texts.map((text, i) => (present[i] ? read(text) : NaN));
  return Float64Array.from(raw.codes, (code) => valueOf[code] ?? NaN);
}

function codedColumn(
  raw: RawColumn,
  present: readonly boolean[],
  kind: 'category' | 'boolean' | 'text',
): Column {
  const levels = raw.texts.filter((_, i) => present[i]).sort(byCodeUnit);
  const codeOf = new Map(levels.map((level, code) => [level, code]));
  const codes = Int32Array.from(raw.codes, (code) => codeOf.get(raw.texts[code] ?? '') ?? -1);
  return { kind, name: raw.name, levels, codes };
}

/** For a column most of whose cells are numbers: how many are not, with the first of them. */
function notNumericNote(
  raw: RawColumn,
  types: readonly (CellType | null)[],
  cellsOf: readonly number[],
  presentCells: number,
): string | null {
  let numbers = 0;
  let other = 0;
  let codes = 0;
  let first = -1;
  types.forEach((type, i) => {
    const cells = cellsOf[i] ?? 0;
    if (type === 'number') numbers += cells;
    else if (type === 'code') codes += cells;
    else if (type !== null) {
      other += cells;
      if (first < 0) first = i;
    }
  });
  if (codes > 0 && other === 0)
    return `kept as text: ${counted(codes, 'cell')} would lose digits as a number`;
  if (numbers === 0 || numbers < presentCells * 0.8 || first < 0) return null;
  return `${count(other)} of ${count(presentCells)} cells are not numbers, the first “${raw.texts[first]}” on line ${raw.firstLines[first]}`;
}
