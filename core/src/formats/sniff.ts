import { SieveError } from '../errors.js';

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
    throw new SieveError('not-text', `${file} is ${known.what}. Save it as CSV and bring that file.`, {
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
      `${file} is a web page, not a table. Perhaps a sign-in page was saved in place of the data.`,
      { file },
    );
  }
}

export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

/** Decodes a text: by its byte order mark, else as UTF-8 if it is valid UTF-8, else as Windows-1252. The mark is dropped. */
export function decodeText(bytes: Uint8Array): { text: string; encoding: Encoding } {
  const marked: Encoding | null =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : null;
  if (marked) return { text: new TextDecoder(marked).decode(bytes), encoding: marked };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'utf-8' };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'windows-1252' };
  }
}
