import { shortNumberIn, numberOf } from '../../table/cell.js';
import type { RawCells } from '../../table/infer.js';
import { countOf } from './pieces.js';

/** Positions of the fields of records without quotation marks. */
export interface PlainRecords {
  readonly bytes: Uint8Array;
  readonly width: number;
  readonly rows: number;
  /** `width` starts for each record and the end of its last field, `width + 1` positions in all. */
  readonly bounds: Int32Array;
  /** The line on which each record stands. */
  readonly lines: Int32Array;
}

/** A record with another number of fields than the header has. */
export interface Ragged {
  readonly line: number;
  readonly fields: number;
}

const CARRIAGE_RETURN = 0x0d;

/**
 * Finds the fields of a piece that holds no quotation mark, where a record is cut at every delimiter and a line at
 * every end: what papaparse does with such text, without making a string of every field. Blank lines are passed over.
 *
 * @param end the byte that ends records; a carriage return before it does not belong to the last field
 * @param line of the first record
 * @returns the first record that is ragged, if any is
 */
export function plainRecords(
  bytes: Uint8Array,
  delimiter: number,
  end: number,
  width: number,
  line: number,
): PlainRecords | Ragged {
  const most = countOf(bytes, end, 0, bytes.length) + 1;
  const bounds = new Int32Array(most * (width + 1));
  const lines = new Int32Array(most);
  let rows = 0;
  let place = 0;
  let field = 0;
  let start = 0;
  const { length } = bytes;
  for (let i = 0; i <= length; i++) {
    const byte = bytes[i];
    if (byte === delimiter) {
      field++;
      if (field < width) bounds[place + field] = i + 1;
      continue;
    }
    if (byte !== end && i < length) continue;
    const last = i > start && bytes[i - 1] === CARRIAGE_RETURN ? i - 1 : i;
    const isBlank = field === 0 && last === start;
    if (!isBlank) {
      if (field + 1 !== width) return { line, fields: field + 1 };
      bounds[place] = start;
      bounds[place + width] = last + 1;
      lines[rows++] = line;
      place += width + 1;
    }
    line++;
    field = 0;
    start = i + 1;
  }
  return { bytes, width, rows, bounds: bounds.subarray(0, place), lines: lines.subarray(0, rows) };
}

/** The cells of one column of plain records; as `gatherCells`, from bytes. */
export function gatherPlain(
  records: PlainRecords,
  column: number,
  decode: (bytes: Uint8Array) => string,
  missing: ReadonlySet<string>,
  asTexts: boolean,
): RawCells {
  const numbers = asTexts ? null : plainNumbers(records, column, decode, missing);
  return numbers ? { kind: 'numbers', values: numbers } : plainTexts(records, column, decode, missing);
}

function plainNumbers(
  { bytes, width, rows, bounds }: PlainRecords,
  column: number,
  decode: (bytes: Uint8Array) => string,
  missing: ReadonlySet<string>,
): Float64Array | null {
  const numbersMayBeMissing = [...missing].some((text) => !Number.isNaN(numberOf(text)));
  const values = new Float64Array(rows);
  for (let row = 0; row < rows; row++) {
    const place = row * (width + 1) + column;
    const from = bounds[place] ?? 0;
    const to = (bounds[place + 1] ?? 0) - 1;
    let value = shortNumberIn(bytes, from, to);
    if (value < 0 || numbersMayBeMissing) {
      const text = decode(bytes.subarray(from, to));
      if (missing.has(text)) value = NaN;
      else {
        value = numberOf(text);
        if (Number.isNaN(value)) return null;
      }
    }
    values[row] = value;
  }
  return values;
}

/** A dictionary of fields by their bytes: a text is made once for each that is new. */
function plainTexts(
  { bytes, width, rows, bounds, lines }: PlainRecords,
  column: number,
  decode: (bytes: Uint8Array) => string,
  missing: ReadonlySet<string>,
): RawCells {
  const texts: string[] = [];
  const firstLines: number[] = [];
  const codes = new Int32Array(rows);
  // Open addressing over rows: a slot holds the first row of a text and 1, so that 0 is an empty one.
  const slots = new Int32Array(2 ** Math.ceil(Math.log2(2 * rows + 2)));
  const mask = slots.length - 1;
  for (let row = 0; row < rows; row++) {
    const place = row * (width + 1) + column;
    const from = bounds[place] ?? 0;
    const to = (bounds[place + 1] ?? 0) - 1;
    let slot = hashOf(bytes, from, to) & mask;
    let first = (slots[slot] ?? 0) - 1;
    while (first >= 0) {
      const other = first * (width + 1) + column;
      if (sameBytes(bytes, bounds[other] ?? 0, (bounds[other + 1] ?? 0) - 1, from, to)) break;
      slot = (slot + 1) & mask;
      first = (slots[slot] ?? 0) - 1;
    }
    if (first >= 0) {
      codes[row] = codes[first] ?? -1;
      continue;
    }
    slots[slot] = row + 1;
    const text = decode(bytes.subarray(from, to));
    if (missing.has(text)) codes[row] = -1;
    else {
      codes[row] = texts.length;
      texts.push(text);
      firstLines.push(lines[row] ?? 0);
    }
  }
  return { kind: 'texts', texts, firstLines, codes };
}

/** FNV-1a over bytes (draft-eastlake-fnv). */
function hashOf(bytes: Uint8Array, from: number, to: number): number {
  let hash = 0x811c9dc5;
  for (let i = from; i < to; i++) hash = Math.imul(hash ^ (bytes[i] ?? 0), 0x01000193);
  return hash ^ (hash >>> 15);
}

function sameBytes(bytes: Uint8Array, a: number, aEnd: number, b: number, bEnd: number): boolean {
  if (aEnd - a !== bEnd - b) return false;
  for (let i = 0; i < aEnd - a; i++) if (bytes[a + i] !== bytes[b + i]) return false;
  return true;
}
