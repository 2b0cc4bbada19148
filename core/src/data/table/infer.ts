import { at, count, counted } from '../../foundation/numbers.js';
import {
  commasIn,
  dateFormOf,
  numberOf,
  timeOf,
  typeOfCell,
  whatIsWrongWith,
  type CellType,
} from './cell.js';
import { codedColumn } from './recode.js';
import type { Column } from './table.js';

/** Distinct texts, each with the line of the file on which it first occurs, and for every row the index of its text. */
export interface RawTexts {
  readonly kind: 'texts';
  readonly texts: readonly string[];
  readonly firstLines: readonly number[];
  /** −1 where a cell is missing. */
  readonly codes: Int32Array;
}

/** Cells that are numbers, all of them; NaN where one is missing. */
interface RawNumbers {
  readonly kind: 'numbers';
  readonly values: Float64Array;
}

/** The cells of a column, or of a run of its rows, as they were read. */
export type RawCells = RawTexts | RawNumbers;

/** A typed column, and in a sentence what stopped it from being numeric, if anything did. */
export interface InferredColumn {
  readonly column: Column;
  readonly note: string | null;
}

/** A text column has more distinct values than this, and more than half of its cells are distinct. */
const MOST_LEVELS_OF_SMALL_CATEGORY = 20;
/** A column of which at least this share are numbers was meant to be one. */
const MEANT_AS_NUMBERS = 0.8;

/**
 * Decides a column's type from all of its cells.
 *
 * Number if every present cell is a number, with a decimal comma if all that have a comma leave no doubt; time if
 * every present cell is an ISO 8601 date or date-time written alike; boolean if all are true or false; else
 * category, or text where most cells differ.
 */
export function inferColumn(name: string, raw: RawCells): InferredColumn {
  if (raw.kind === 'numbers') return { column: { kind: 'number', name, values: raw.values }, note: null };
  const { texts, codes } = raw;
  const cellsOf = new Int32Array(texts.length);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row] ?? -1;
    if (code >= 0) cellsOf[code] = (cellsOf[code] ?? 0) + 1;
  }
  const types = texts.map(typeOfCell);
  const seen = new Set(types);
  const only = (type: CellType) => seen.size === 1 && seen.has(type);
  if (seen.size === 0 || only('number'))
    return { column: { kind: 'number', name, values: spread(codes, texts.map(numberOf)) }, note: null };
  if (only('time')) {
    const times = texts.map(timeOf);
    const [first] = times;
    const format = JSON.stringify(first?.format);
    if (first && times.every((time) => JSON.stringify(time?.format) === format)) {
      const values = spread(
        codes,
        times.map((time) => time?.value ?? NaN),
      );
      return { column: { kind: 'time', name, values, format: first.format }, note: null };
    }
  }
  const commas = texts.length > 0 && texts.some((text) => text.includes(',')) ? commasIn(texts) : null;
  if (commas === 'decimal') {
    const first = texts.findIndex((text) => text.includes(','));
    return {
      column: {
        kind: 'number',
        name,
        values: spread(
          codes,
          texts.map((text) => numberOf(text.replace(',', '.'))),
        ),
      },
      note: `decimal commas were read as points, the first “${texts[first]}” on line ${raw.firstLines[first]}`,
    };
  }
  const present = cellsOf.reduce((a, b) => a + b, 0);
  const text = texts.length > MOST_LEVELS_OF_SMALL_CATEGORY && texts.length > present / 2;
  const kind = only('boolean') ? 'boolean' : text ? 'text' : 'category';
  return {
    column: codedColumn(name, texts, codes, kind),
    note: notNumericNote(raw, types, cellsOf, present, commas) ?? datesNote(raw),
  };
}

function spread(codes: Int32Array, valueOf: readonly number[]): Float64Array {
  const values = new Float64Array(codes.length);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row] ?? -1;
    values[row] = code < 0 ? NaN : (valueOf[code] ?? NaN);
  }
  return values;
}

/** For a column most of whose cells are numbers: how many are not, with the first of them. */
function notNumericNote(
  raw: RawTexts,
  types: readonly CellType[],
  cellsOf: Int32Array,
  present: number,
  commas: ReturnType<typeof commasIn>,
): string | null {
  let numbers = 0;
  let other = 0;
  let codes = 0;
  let first = -1;
  types.forEach((type, i) => {
    const cells = at(cellsOf, i);
    if (type === 'number') numbers += cells;
    else if (type === 'code') codes += cells;
    else {
      other += cells;
      if (first < 0) first = i;
    }
  });
  if (codes > 0 && other === 0)
    return `kept as text: ${counted(codes, 'cell')} would lose digits as a number`;
  if (first < 0) return null;
  const place = `“${raw.texts[first]}” on line ${raw.firstLines[first]}`;
  if (commas === 'either')
    return `kept as text: ${place} may have a decimal comma or commas between thousands`;
  if (commas === 'thousands')
    return `kept as text: ${counted(other, 'cell')} with commas between thousands, the first ${place}`;
  if (numbers === 0 || numbers < present * MEANT_AS_NUMBERS) return null;
  const why = whatIsWrongWith(raw.texts[first] ?? '');
  const reason = why === 'is not a number' ? '' : `, which ${why}`;
  return `${count(other)} of ${count(present)} cells are not numbers, the first ${place}${reason}`;
}

/** For a column of dates that are written in more ways than one: two of them. */
function datesNote({ texts, firstLines }: RawTexts): string | null {
  const [start] = texts;
  const form = start === undefined ? null : dateFormOf(start);
  if (form === null) return null;
  let other = -1;
  for (const [i, text] of texts.entries()) {
    const own = dateFormOf(text);
    if (own === null) return null;
    if (own !== form && other < 0) other = i;
  }
  return other < 0
    ? null
    : `kept as text: dates are written in more ways than one, “${start}” on line ${firstLines[0]} and “${texts[other]}” on line ${firstLines[other]}`;
}
