import { counted } from '../../foundation/numbers.js';
import { check, type Check } from '../../foundation/check.js';

/** What a file may take beside its rows, in bytes. */
const BESIDE_ROWS = 64 * 1024;
/** What a row may take, in bytes: an identifier, what is asked for, and features that were left in the file. */
const LARGEST_ROW = 512;
const LARGEST_LABEL = 32;
const LONGEST_LINE = 16 * 1024;
const MOST_COLUMNS = 500;

/** As much of the rules of a question as says how much its files can hold. */
export interface FileSize {
  /** Rows that are named; left out where a file names none. */
  readonly identifiers?: readonly string[];
  readonly labels?: readonly string[];
  readonly settings?: readonly string[];
  /** Whether a model is handed in, which has no lines to count. */
  readonly model?: boolean;
}

/** Larger models are neither kept nor read, in bytes. */
export const LARGEST_MODEL = 64 * 2 ** 20;

/** The largest file that an answer can need, in bytes: a larger one is refused before it is kept or read. */
export const largestFile = ({
  identifiers = [],
  labels = [],
  settings = [],
  model = false,
}: FileSize): number =>
  model
    ? LARGEST_MODEL
    : BESIDE_ROWS +
      identifiers.length * (LARGEST_ROW + LARGEST_LABEL * labels.length) +
      settings.length * LARGEST_ROW;

/** "0.3 MB". */
const megabytes = (bytes: number): string => `${(bytes / (1024 * 1024)).toFixed(1)} MB`;

/** The check that a file of so many bytes fails; null where it is small enough. */
export function sizeCheck(bytes: number, file: string, rules: FileSize): Check | null {
  const largest = largestFile(rules);
  if (bytes <= largest) return null;
  return check('size', 'fails', `${file} is too large to be an answer to this question.`, {
    measured: megabytes(bytes),
    expected: `at most ${megabytes(largest)}`,
  });
}

/**
 * The check that a file fails for its size, for a line that is longer than any answer's or for too many columns; null
 * where it is none of these. Nothing of it is quoted but where it is.
 */
export function limitsCheck(bytes: Uint8Array, file: string, rules: FileSize): Check | null {
  const tooLarge = sizeCheck(bytes.length, file, rules);
  if (tooLarge) return tooLarge;
  if (rules.model === true) return null;
  // An archive has no lines; what is in it is looked at once it is unpacked.
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return null;
  const long = longLine(bytes);
  if (long !== null)
    return check('line-length', 'fails', `Line ${long} of ${file} is longer than any line of an answer.`, {
      measured: `more than ${counted(LONGEST_LINE, 'byte')}`,
      expected: 'a line for each row',
    });
  const columns = columnsOf(bytes);
  return columns <= MOST_COLUMNS
    ? null
    : check('columns', 'fails', `${file} has more columns than any answer.`, {
        measured: counted(columns, 'column'),
        expected: `at most ${MOST_COLUMNS}`,
      });
}

/** The number of the first line that is too long, or null. Both ends of a line count, that of old files too. */
function longLine(bytes: Uint8Array): number | null {
  let start = 0;
  let line = 1;
  for (let at = 0; at <= bytes.length; at++) {
    const byte = bytes[at];
    const ends = at === bytes.length || byte === 0x0a || byte === 0x0d;
    if (!ends && at - start <= LONGEST_LINE) continue;
    if (at - start > LONGEST_LINE) return line;
    if (byte === 0x0d && bytes[at + 1] === 0x0a) at++;
    start = at + 1;
    line++;
  }
  return null;
}

/** Columns of the first line, by whichever delimiter gives most. */
function columnsOf(bytes: Uint8Array): number {
  const counts = new Map([0x2c, 0x3b, 0x09, 0x7c].map((delimiter) => [delimiter, 1]));
  for (const byte of bytes) {
    if (byte === 0x0a || byte === 0x0d) break;
    const count = counts.get(byte);
    if (count !== undefined) counts.set(byte, count + 1);
  }
  return Math.max(...counts.values());
}
