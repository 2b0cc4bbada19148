import { at } from '../../../foundation/numbers.js';

/** A run of whole records of a delimited file. */
export interface Piece {
  readonly bytes: Uint8Array;
  /** Line of the file on which the piece begins. */
  readonly line: number;
}

/** Bytes that a piece is to have at least. */
const PIECE_BYTES = 1 << 21;

const LINE_FEED = 0x0a;
const CARRIAGE_RETURN = 0x0d;
const QUOTE = 0x22;

/** The byte that ends records: a line feed, or a carriage return in a file that has no line feed. */
export const recordEnd = (bytes: Uint8Array): number =>
  bytes.includes(LINE_FEED) || !bytes.includes(CARRIAGE_RETURN) ? LINE_FEED : CARRIAGE_RETURN;

/**
 * Cuts delimited text at the ends of records, never within a quoted field, so that pieces can be read apart from
 * one another. A field is quoted where a mark follows a delimiter or the end of a record; a doubled mark within
 * belongs to the text (RFC 4180).
 *
 * @param bytes in an encoding whose bytes below 128 are ASCII
 * @param delimiter one ASCII character
 */
export function* cutPieces(bytes: Uint8Array, delimiter: string, least = PIECE_BYTES): Generator<Piece> {
  const end = recordEnd(bytes);
  const comma = delimiter.charCodeAt(0);
  let start = 0;
  let line = 1;
  let quote = bytes.indexOf(QUOTE);
  while (start < bytes.length) {
    let cut = start + least;
    // Pass over the quoted fields before the place, and to the end of one in which it falls.
    while (quote >= 0 && quote < cut) {
      const before = quote === 0 ? end : at(bytes, quote - 1);
      const opens = before === comma || before === end || (quote === 3 && at(bytes, 0) === 0xef);
      const after = opens ? endOfQuoted(bytes, quote) : quote + 1;
      if (after > cut) cut = after;
      quote = bytes.indexOf(QUOTE, after);
    }
    let stop = cut >= bytes.length ? bytes.length : bytes.indexOf(end, cut) + 1;
    if (stop === 0) stop = bytes.length;
    // The rest of the record may hold quoted fields as well, with ends of lines in them.
    if (quote >= 0 && quote < stop && stop < bytes.length) stop = endOfRecord(bytes, quote, comma, end);
    if (quote >= 0 && quote < stop) quote = bytes.indexOf(QUOTE, stop);
    yield { bytes: bytes.subarray(start, stop), line };
    line += countOf(bytes, end, start, stop);
    start = stop;
  }
}

/** How often a byte occurs between two positions. */
function countOf(bytes: Uint8Array, byte: number, from: number, to: number): number {
  let found = 0;
  const part = bytes.subarray(from, to);
  for (let i = part.indexOf(byte); i >= 0; i = part.indexOf(byte, i + 1)) found++;
  return found;
}

/** The position after the mark that closes the field opened at `quote`; the end of the file where none does. */
function endOfQuoted(bytes: Uint8Array, quote: number): number {
  let close = bytes.indexOf(QUOTE, quote + 1);
  while (close >= 0 && bytes[close + 1] === QUOTE) close = bytes.indexOf(QUOTE, close + 2);
  return close < 0 ? bytes.length : close + 1;
}

/** The end of the record that holds the mark at `quote`. */
function endOfRecord(bytes: Uint8Array, quote: number, comma: number, end: number): number {
  let position = quote;
  while (position < bytes.length) {
    const byte = at(bytes, position);
    if (byte === end) return position + 1;
    const before = position === 0 ? end : at(bytes, position - 1);
    position =
      byte === QUOTE && (before === comma || before === end) ? endOfQuoted(bytes, position) : position + 1;
  }
  return bytes.length;
}
