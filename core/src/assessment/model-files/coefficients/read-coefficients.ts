import Papa from 'papaparse';
import { SieveError } from '../../../foundation/errors.js';
import { decodeText, refuseForeign } from '../../../data/formats/sniff.js';
import { count } from '../../../foundation/numbers.js';

/** A term as written, with its estimate. */
export interface Coefficient {
  readonly term: string;
  readonly estimate: number;
  /** Of the file, from 1. */
  readonly line: number;
}

/** Names of the columns as spreadsheets and statistics programs write them; R leaves that of the terms empty. */
const TERM = ['term', 'variable', 'name', 'predictor', 'parameter', ''];
const ESTIMATE = ['estimate', 'coefficient', 'coef', 'coef.', 'beta', 'value'];
const MOST = 10_000;

/**
 * Reads a table of coefficients: a column of terms and one of estimates; others (standard errors, p-values) are read over.
 *
 * @throws SieveError `model-file` with the line
 */
export function readCoefficients(bytes: Uint8Array, file: string): Coefficient[] {
  refuseForeign(bytes, file);
  const text = decodeText(bytes).replace(/^\uFEFF/, '');
  const delimiter = delimiterOf(text);
  const { data } = Papa.parse<string[]>(text, { delimiter });
  const [header, ...records] = data;
  const refuse = (message: string, line: number) => new SieveError('model-file', message, { file, line });
  const named = (names: readonly string[]) =>
    header?.findIndex((name) => names.includes(name.trim().toLowerCase())) ?? -1;
  const [termColumn, estimateColumn] = [named(TERM), named(ESTIMATE)];
  if (termColumn < 0 || estimateColumn < 0)
    throw refuse(
      `The table needs the columns “term” and “estimate”; it has ${header?.map((name) => `“${name}”`).join(', ') ?? 'none'}.`,
      1,
    );
  const found: Coefficient[] = [];
  const lines = new Map<string, number>();
  for (const [i, record] of records.entries()) {
    const line = i + 2;
    if (record.every((cell) => cell.trim() === '')) continue;
    const term = record[termColumn]?.trim() ?? '';
    if (term === '') throw refuse(`Line ${line} has no term.`, line);
    const earlier = lines.get(term);
    if (earlier !== undefined)
      throw refuse(`Line ${line} has the term “${term}” again, which line ${earlier} has.`, line);
    lines.set(term, line);
    const written = record[estimateColumn]?.trim() ?? '';
    const estimate = numberOf(written, delimiter);
    if (estimate === null)
      throw refuse(`Line ${line}: the estimate of “${term}” is “${written}”, which is no number.`, line);
    found.push({ term, estimate, line });
    if (found.length > MOST) throw refuse(`The table has more than ${count(MOST)} terms.`, line);
  }
  if (found.length === 0) throw refuse('The table has no term.', 1);
  return found;
}

/** What separates the names of the columns: estimates with decimal commas would mislead a guess by the whole file. */
function delimiterOf(text: string): string {
  const widths = [',', ';', '\t', '|'].map((delimiter) => ({
    delimiter,
    width: Papa.parse<string[]>(text, { delimiter, preview: 1 }).data[0]?.length ?? 0,
  }));
  return widths.reduce((a, b) => (b.width > a.width ? b : a)).delimiter;
}

/** A finite number; where commas do not separate cells, one with a decimal comma too. */
function numberOf(text: string, delimiter: string): number | null {
  const plain = delimiter !== ',' && /^[+-]?\d*,\d+(e[+-]?\d+)?$/i.test(text) ? text.replace(',', '.') : text;
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain)) return null;
  const value = Number(plain);
  return Number.isFinite(value) ? value : null;
}
