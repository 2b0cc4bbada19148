import Papa from 'papaparse';
import { SieveError } from '../../errors.js';
import { counted } from '../../numbers.js';
import { decodeText, refuseForeign, type Encoding } from '../sniff.js';

/** How a delimited file is written. */
export interface Dialect {
  readonly encoding: Encoding;
  readonly delimiter: string;
}

/** A delimited text, opened: its dialect and its header; records follow by `eachRecord`. */
export interface DelimitedText {
  readonly file: string;
  readonly dialect: Dialect;
  readonly header: readonly string[];
  readonly text: string;
}

const DELIMITERS = [',', ';', '\t', '|'] as const;

/**
 * Opens delimited text: refuses what is no text, detects encoding and delimiter, reads the header.
 *
 * @throws SieveError `empty-file`, `not-text`, `html-file`, `csv-open-quote`, `csv-quote`, `csv-header`
 */
export function openDelimited(bytes: Uint8Array, file: string): DelimitedText {
  refuseForeign(bytes, file);
  const { text, encoding } = decodeText(bytes);
  if (text.trim() === '')
    throw new SieveError('empty-file', `${file} holds nothing but blank space.`, { file });
  const delimiter = detectDelimiter(text);
  let header: readonly string[] = [];
  readRecords(text, delimiter, file, (fields) => {
    header = fields;
    return false;
  });
  return { file, dialect: { encoding, delimiter }, header: checkedHeader(header, file), text };
}

/** The delimiter that cuts the first lines into the same number of fields most often; a comma where none does. */
function detectDelimiter(text: string): string {
  const sample = text.slice(0, 65_536);
  const lines =
    sample.length < text.length ? sample.slice(0, sample.lastIndexOf('\n') + 1) || sample : sample;
  let best: { delimiter: string; agreeing: number; fields: number } = {
    delimiter: ',',
    agreeing: 0,
    fields: 1,
  };
  for (const delimiter of DELIMITERS) {
    const { data } = Papa.parse<string[]>(lines, { delimiter, preview: 50, skipEmptyLines: true });
    const fields = data[0]?.length ?? 1;
    const agreeing = fields < 2 ? 0 : data.filter((record) => record.length === fields).length;
    if (agreeing > best.agreeing || (agreeing === best.agreeing && agreeing > 0 && fields > best.fields)) {
      best = { delimiter, agreeing, fields };
    }
  }
  return best.delimiter;
}

function checkedHeader(fields: readonly string[], file: string): string[] {
  const names = fields.map((name) => name.trim());
  names.forEach((name, i) => {
    const place = { file, line: 1, column: i + 1 };
    if (name === '') {
      throw new SieveError(
        'csv-header',
        `${file}, line 1: column ${i + 1} has no name. Give every column a name.`,
        place,
      );
    }
    const first = names.indexOf(name);
    if (first < i) {
      throw new SieveError(
        'csv-header',
        `${file}, line 1: columns ${first + 1} and ${i + 1} are both called “${name}”.`,
        place,
      );
    }
  });
  return names;
}

/**
 * Calls `visit` with the fields of each record after the header and the line on which the record starts.
 * Blank lines are passed over. Stops early when `visit` returns false.
 *
 * @throws SieveError `csv-open-quote`, `csv-quote`, `csv-ragged`
 */
export function eachRecord(
  source: DelimitedText,
  visit: (fields: readonly string[], line: number) => boolean,
): void {
  const { file, header } = source;
  let first = true;
  readRecords(source.text, source.dialect.delimiter, file, (fields, line) => {
    if (first) {
      first = false;
      return true;
    }
    if (fields.length !== header.length) {
      throw new SieveError(
        'csv-ragged',
        `${file}, line ${line}: ${counted(fields.length, 'field')}, but the header has ${header.length}.`,
        { file, line, column: Math.min(fields.length, header.length) + 1 },
      );
    }
    return visit(fields, line);
  });
}

/** Every record that is not a blank line, with its line; problems of quoting are thrown where they occur. */
function readRecords(
  text: string,
  delimiter: string,
  file: string,
  visit: (fields: readonly string[], line: number) => boolean,
): void {
  let line = 1;
  let position = 0;
  const failures: unknown[] = [];
  Papa.parse<string[]>(text, {
    delimiter,
    step: ({ data, errors, meta }, parser) => {
      const start = line;
      for (; position < meta.cursor; position++) if (text.charCodeAt(position) === 10) line++;
      try {
        const problem = errors.find((error) => error.type === 'Quotes');
        if (problem) throw quoteError(problem.code, file, start, data.length);
        const blank = data.length === 1 && data[0] === '';
        if (!blank && !visit(data, start)) parser.abort();
      } catch (error) {
        failures.push(error);
        parser.abort();
      }
    },
  });
  const [failure] = failures;
  if (failure instanceof Error) throw failure;
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
