import Papa from 'papaparse';
import { SieveError } from '../../../foundation/errors.js';
import { at, counted } from '../../../foundation/numbers.js';
import { indexName } from '../index-name.js';
import { encodingOf, refuseForeign, toUtf8, type Encoding } from '../sniff.js';
import { cutPieces, recordEnd, type Piece } from './pieces.js';
import { plainRecords, type PlainRecords } from './plain.js';

/** How a delimited file is written. */
export interface Dialect {
  readonly encoding: Encoding;
  readonly delimiter: string;
}

/** A delimited text, opened: its dialect and its header; the records follow by `records`, piece by piece. */
export interface DelimitedText {
  readonly file: string;
  readonly dialect: Dialect;
  readonly header: readonly string[];
  /** Whether the first column has no name, as programs write the names of rows; in the header it is called `index`. */
  readonly isIndexed: boolean;
  /** What ends a record. */
  readonly newline: '\n' | '\r';
  /** Encoded so that bytes below 128 are ASCII. */
  readonly bytes: Uint8Array;
}

/** The records of one piece, and for each the line on which it starts. */
export interface Records {
  readonly fields: readonly (readonly string[])[];
  readonly lines: ArrayLike<number>;
}

const DELIMITERS = [',', ';', '\t', '|'] as const;
const SAMPLE_BYTES = 1 << 16;
const QUOTE = 0x22;
const BYTE_ORDER_MARK = [0xef, 0xbb, 0xbf];
const VISITED_BYTES = 1 << 17;

/**
 * Opens delimited text: refuses what is no text, detects encoding and delimiter, reads the header.
 *
 * @throws SieveError `empty-file`, `not-text`, `html-file`, `csv-open-quote`, `csv-quote`, `csv-header`
 */
export function openDelimited(given: Uint8Array, file: string): DelimitedText {
  refuseForeign(given, file);
  const encoding = encodingOf(given);
  const bytes = toUtf8(given, encoding);
  const sample = decode(bytes.subarray(0, endOfSample(bytes)), encoding);
  if (sample.trim() === '' && decode(bytes, encoding).trim() === '')
    throw new SieveError('empty-file', `${file} holds nothing but blank space.`, { file });
  const newline = recordEnd(bytes) === 0x0a ? '\n' : '\r';
  const delimiter = detectDelimiter(sample, newline);
  const opened = { file, dialect: { encoding, delimiter }, newline, bytes } as const;
  // The shortest pieces are single records.
  for (const piece of cutPieces(bytes, delimiter, 1)) {
    const [header] = parse(opened, piece).fields;
    if (header)
      return { ...opened, header: checkedHeader(header, file), isIndexed: header[0]?.trim() === '' };
  }
  throw new SieveError('empty-file', `${file} holds nothing but blank space.`, { file });
}

/** The pieces of the text; the first one begins with the header. */
export const piecesOf = (source: DelimitedText): Generator<Piece> =>
  cutPieces(source.bytes, source.dialect.delimiter);

/** Up to the last end of a line in the first 64 KiB. */
function endOfSample(bytes: Uint8Array): number {
  if (bytes.length <= SAMPLE_BYTES) return bytes.length;
  const end = bytes.lastIndexOf(0x0a, SAMPLE_BYTES);
  return end > 0 ? end + 1 : SAMPLE_BYTES;
}

/** Makes texts of bytes that `toUtf8` gave. */
export function decoderOf(encoding: Encoding): (bytes: Uint8Array) => string {
  const decoder = new TextDecoder(encoding === 'windows-1252' ? encoding : 'utf-8');
  return (bytes) => decoder.decode(bytes);
}

const decode = (bytes: Uint8Array, encoding: Encoding): string => decoderOf(encoding)(bytes);

/** The delimiter that cuts the first lines into the same number of fields most often; a comma where none does. */
function detectDelimiter(sample: string, newline: '\n' | '\r'): string {
  let best: { delimiter: string; agreeing: number; fields: number } = {
    delimiter: ',',
    agreeing: 0,
    fields: 1,
  };
  for (const delimiter of DELIMITERS) {
    const { data } = Papa.parse<string[]>(sample, { delimiter, newline, preview: 50, skipEmptyLines: true });
    const fields = data[0]?.length ?? 1;
    const agreeing = fields < 2 ? 0 : data.filter((record) => record.length === fields).length;
    if (agreeing > best.agreeing || (agreeing === best.agreeing && agreeing > 0 && fields > best.fields)) {
      best = { delimiter, agreeing, fields };
    }
  }
  return best.delimiter;
}

function checkedHeader(fields: readonly string[], file: string): string[] {
  const given = fields.map((name) => name.trim());
  const names = given.map((name, i) =>
    i === 0 && name === '' && fields.length > 1 ? indexName(given) : name,
  );
  const firstOf = new Map<string, number>();
  names.forEach((name, i) => {
    const place = { file, line: 1, column: i + 1 };
    if (name === '') {
      throw new SieveError(
        'csv-header',
        `${file}, line 1: column ${i + 1} has no name. Give every column a name.`,
        place,
      );
    }
    const first = firstOf.get(name);
    if (first !== undefined) {
      throw new SieveError(
        'csv-header',
        `${file}, line 1: columns ${first + 1} and ${i + 1} are both called “${name}”.`,
        place,
      );
    }
    firstOf.set(name, i);
  });
  return names;
}

/**
 * The records of a piece, without the header and without blank lines.
 *
 * @throws SieveError `csv-open-quote`, `csv-quote`, `csv-ragged` at the first offence of the piece
 */
export function recordsOf(source: Omit<DelimitedText, 'bytes'>, piece: Piece): Records {
  const { header } = source;
  const { fields, lines } = parse(source, piece);
  const skip = piece.line === 1 ? 1 : 0;
  for (let i = skip; i < fields.length; i++) {
    const found = at(fields, i).length;
    if (found === header.length) continue;
    throw raggedError(source, at(lines, i), found);
  }
  return skip === 0 ? { fields, lines } : { fields: fields.slice(1), lines: Array.from(lines).slice(1) };
}

/**
 * The records of a piece without quotation marks, without the header and blank lines; null for a piece that has one.
 *
 * @throws SieveError `csv-ragged`
 */
export function plainPiece(
  source: Omit<DelimitedText, 'bytes'>,
  { bytes, line }: Piece,
): PlainRecords | null {
  if (bytes.includes(QUOTE)) return null;
  const delimiter = source.dialect.delimiter.charCodeAt(0);
  const end = source.newline.charCodeAt(0);
  const isFirst = line === 1;
  const text = isFirst && BYTE_ORDER_MARK.every((byte, i) => bytes[i] === byte) ? bytes.subarray(3) : bytes;
  const found = plainRecords(text, delimiter, end, source.header.length, line);
  if ('fields' in found) throw raggedError(source, found.line, found.fields);
  return isFirst ? withoutFirst(found) : found;
}

const withoutFirst = ({ rows, bounds, lines, width, bytes }: PlainRecords): PlainRecords => ({
  bytes,
  width,
  rows: rows - 1,
  bounds: bounds.subarray(width + 1),
  lines: lines.subarray(1),
});

const raggedError = ({ file, header }: Omit<DelimitedText, 'bytes'>, line: number, found: number) =>
  new SieveError(
    'csv-ragged',
    `${file}, line ${line}: ${counted(found, 'field')}, but the header has ${header.length}.`,
    { file, line, column: Math.min(found, header.length) + 1 },
  );

/** The records after the header, a small run at a time: where it can be, as bytes; else as texts. */
export function* runsOf(source: DelimitedText): Generator<PlainRecords | Records> {
  // Small pieces: their strings die young, before they are moved about in memory.
  for (const piece of cutPieces(source.bytes, source.dialect.delimiter, VISITED_BYTES))
    yield plainPiece(source, piece) ?? recordsOf(source, piece);
}

function parse(source: Pick<DelimitedText, 'file' | 'dialect' | 'newline'>, piece: Piece): Records {
  const { dialect, newline, file } = source;
  const text = decode(piece.bytes, dialect.encoding);
  const { data, errors } = Papa.parse<string[]>(text, { delimiter: dialect.delimiter, newline });
  const problem = errors.find((error) => error.type === 'Quotes');
  const returns = newline === '\n' && text.includes('\r');
  const quoted = text.includes('"');
  const fields: string[][] = [];
  const lines = new Int32Array(data.length);
  let line = piece.line;
  for (let i = 0; i < data.length; i++) {
    const record = at(data, i);
    if (problem?.row === i) throw quoteError(problem.code, file, line, record.length);
    const start = line++;
    if (quoted) for (const field of record) line += lineEndsIn(field, newline);
    // Lines may end in a carriage return and a line feed, all of them or some.
    if (returns) {
      const last = at(record, record.length - 1);
      if (last.endsWith('\r')) record[record.length - 1] = last.slice(0, -1);
    }
    if (record.length === 1 && record[0] === '') continue;
    lines[fields.length] = start;
    fields.push(record);
  }
  if (problem) throw quoteError(problem.code, file, line, 1);
  return { fields, lines: lines.subarray(0, fields.length) };
}

function lineEndsIn(field: string, newline: string): number {
  let ends = 0;
  for (let i = field.indexOf(newline); i >= 0; i = field.indexOf(newline, i + 1)) ends++;
  return ends;
}

function quoteError(code: string, file: string, line: number, column: number): SieveError {
  if (code === 'MissingQuotes') {
    return new SieveError(
      'csv-open-quote',
      `${file}, line ${line}: a quotation mark in field ${column} is opened and never closed.`,
      { file, line, column },
    );
  }
  return new SieveError(
    'csv-quote',
    `${file}, line ${line}: text follows the closing quotation mark of field ${column}. Double a mark that belongs to the text.`,
    { file, line, column },
  );
}
