import { SieveError } from '../../foundation/errors.js';

const SIGNATURES: readonly { bytes: readonly number[]; what: string }[] = [
  { bytes: [0x50, 0x4b, 0x03, 0x04], what: 'a spreadsheet or a zip archive, whatever its name says' },
  { bytes: [0xd0, 0xcf, 0x11, 0xe0], what: 'an old-style spreadsheet, whatever its name says' },
  { bytes: [0x1f, 0x8b], what: 'compressed with gzip' },
  { bytes: [0x25, 0x50, 0x44, 0x46], what: 'a PDF document' },
  { bytes: [0x89, 0x50, 0x4e, 0x47], what: 'a picture' },
  { bytes: [0x50, 0x41, 0x52, 0x31], what: 'a Parquet file' },
];

/**
 * Refuses contents that are no text table, by what they are and not by their name.
 *
 * @throws SieveError `empty-file`, `not-text`, `html-file`
 */
export function refuseForeign(bytes: Uint8Array, file: string): void {
  if (bytes.length === 0) throw new SieveError('empty-file', `${file} is empty.`, { file });
  const known = SIGNATURES.find((s) => s.bytes.every((byte, i) => bytes[i] === byte));
  if (known) {
    throw new SieveError('not-text', `${file} is ${known.what}. Save it as CSV and import that file.`, {
      file,
    });
  }
  const wide = (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff);
  const nul = wide ? -1 : bytes.indexOf(0);
  if (nul >= 0) {
    let line = 1;
    for (let i = 0; i < nul; i++) if (bytes[i] === 0x0a) line++;
    throw new SieveError(
      'not-text',
      `${file} holds a zero byte on line ${line}: it is binary or damaged, not a text table.`,
      { file, line },
    );
  }
  const start = new TextDecoder('windows-1252').decode(bytes.subarray(0, 400)).trimStart().toLowerCase();
  if (/^(?:\u00ef\u00bb\u00bf)?\s*<(?:!doctype|html|head|body|\?xml)/.test(start)) {
    throw new SieveError(
      'html-file',
      `${file} is a web page, not a table. Perhaps a sign-in page was saved instead of the data.`,
      { file },
    );
  }
}

export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

const MARKED: readonly { readonly bytes: readonly number[]; readonly encoding: Encoding }[] = [
  { bytes: [0xff, 0xfe], encoding: 'utf-16le' },
  { bytes: [0xfe, 0xff], encoding: 'utf-16be' },
  { bytes: [0xef, 0xbb, 0xbf], encoding: 'utf-8' },
];
const BLOCK = 1 << 23;

/** The encoding of a text: by its byte order mark, else UTF-8 if all of it is valid UTF-8, else Windows-1252. */
export function encodingOf(bytes: Uint8Array): Encoding {
  const marked = MARKED.find((mark) => mark.bytes.every((byte, i) => bytes[i] === byte));
  if (marked && marked.encoding !== 'utf-8') return marked.encoding;
  const strict = new TextDecoder('utf-8', { fatal: true });
  try {
    for (let start = 0; start < bytes.length;) {
      let end = Math.min(start + BLOCK, bytes.length);
      // A block ends before the first byte of a character: continuing bytes are 10xxxxxx.
      while (end < bytes.length && end > start + BLOCK - 4 && ((bytes[end] ?? 0) & 0xc0) === 0x80) end--;
      strict.decode(bytes.subarray(start, end));
      start = end;
    }
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/** A text in UTF-16 as UTF-8; any other as it is. In both, bytes below 128 are ASCII. */
export function toUtf8(bytes: Uint8Array, encoding: Encoding): Uint8Array {
  if (encoding !== 'utf-16le' && encoding !== 'utf-16be') return bytes;
  return new TextEncoder().encode(new TextDecoder(encoding).decode(bytes));
}

/** Decodes a text by `encodingOf`. A byte order mark is dropped. */
export function decodeText(bytes: Uint8Array): string {
  return new TextDecoder(encodingOf(bytes)).decode(bytes);
}
