import { ByteRuns } from '../../table/byte-runs.js';
import { numberOf } from '../../table/cell.js';
import { decimalIn } from '../../table/decimal.js';
import type { RawCells } from '../../table/infer.js';

/** Positions of the fields of records without quotation marks. */
export interface PlainRecords {
  readonly bytes: Uint8Array;
  readonly width: number;
  readonly rows: number;
  /** `width` starts for each record and the end of its last field, `width + 1` positions in all. */
  readonly bounds: Int32Array;
  /** The line on which each record is. */
  readonly lines: Int32Array;
}

/** A record with another number of fields than the header has. */
export interface Ragged {
  readonly line: number;
  readonly fields: number;
}

const CARRIAGE_RETURN = 0x0d;
const EACH_BYTE = 0x01010101;
const LOW_BITS = 0x7f7f7f7f;

/**
 * Finds the fields of a piece that holds no quotation mark, where a record is cut at every delimiter and a line at
 * every end: what papaparse does with such text, without making a string of every field. Blank lines are passed over.
 *
 * Four bytes are looked at together.
 *
 * @param end the byte that ends records; a carriage return before it does not belong to the last field
 * @param line of the first record
 * @returns the first record that is ragged, if any is
 */
export function plainRecords(
  piece: Uint8Array,
  delimiter: number,
  end: number,
  width: number,
  line: number,
): PlainRecords | Ragged {
  const { bytes, words } = inWords(piece, end);
  // A field takes a byte at least, the one that ends it. Memory that is not written to costs next to nothing.
  const most = Math.ceil((piece.length + 1) / width);
  const bounds = new Int32Array(most * (width + 1));
  const lines = new Int32Array(most);
  const [delimiters, ends] = [delimiter * EACH_BYTE, end * EACH_BYTE];
  let rows = 0;
  let place = 0;
  let field = 0;
  let start = 0;
  for (let word = 0; word < words.length; word++) {
    const four = words[word] ?? 0;
    const a = four ^ delimiters;
    const b = four ^ ends;
    // The highest bit of each byte that is nought in one of the two.
    let hits = ~((((a & LOW_BITS) + LOW_BITS) | a) & (((b & LOW_BITS) + LOW_BITS) | b)) & ~LOW_BITS;
    for (; hits !== 0; hits &= hits - 1) {
      // The lowest byte of a word comes first on every machine that engines run on today.
      const i = 4 * word + ((31 - Math.clz32(hits & -hits)) >> 3);
      if (bytes[i] === delimiter) {
        field++;
        if (field < width) bounds[place + field] = i + 1;
      } else {
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
    }
  }
  return { bytes, width, rows, bounds: bounds.subarray(0, place), lines: lines.subarray(0, rows) };
}

/** A piece with an end after it, which ends its last record, and filled up so that it can be read by four bytes. */
function inWords(piece: Uint8Array, end: number): { bytes: Uint8Array; words: Int32Array } {
  const words = new Int32Array(Math.ceil((piece.length + 1) / 4));
  const bytes = new Uint8Array(words.buffer);
  bytes.set(piece);
  bytes[piece.length] = end;
  return { bytes, words };
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
  const emptyIsMissing = missing.has('');
  const values = new Float64Array(rows);
  for (let row = 0; row < rows; row++) {
    const place = row * (width + 1) + column;
    const from = bounds[place] ?? 0;
    const to = (bounds[place + 1] ?? 0) - 1;
    let value = decimalIn(bytes, from, to);
    if (Number.isNaN(value) || numbersMayBeMissing) {
      // Most cells without a number are empty.
      if (from === to && emptyIsMissing) {
        values[row] = NaN;
        continue;
      }
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
  const runs = new ByteRuns(bytes, rows);
  const codeOfRun: number[] = [];
  for (let row = 0; row < rows; row++) {
    const place = row * (width + 1) + column;
    const from = bounds[place] ?? 0;
    const to = (bounds[place + 1] ?? 0) - 1;
    const run = runs.add(from, to);
    if (run === codeOfRun.length) {
      const text = decode(bytes.subarray(from, to));
      codeOfRun.push(missing.has(text) ? -1 : texts.length);
      if (!missing.has(text)) {
        texts.push(text);
        firstLines.push(lines[row] ?? 0);
      }
    }
    codes[row] = codeOfRun[run] ?? -1;
  }
  return { kind: 'texts', texts, firstLines, codes };
}
