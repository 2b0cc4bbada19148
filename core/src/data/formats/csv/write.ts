import Papa from 'papaparse';
import { cellText, type Table } from '../../table/table.js';

/** Records as CSV (RFC 4180 with line feeds); a null is an empty field. */
export function writeRecords(
  header: readonly string[],
  records: readonly (readonly (string | null)[])[],
): string {
  return `${Papa.unparse({ fields: [...header], data: records.map((r) => [...r]) }, { newline: '\n' })}\n`;
}

/** Rows that are put into text at once. */
const BLOCK_ROWS = 8192;

/** A table as CSV, or with another delimiter; missing cells are empty. */
export function writeCsv(table: Table, delimiter = ','): string {
  const options = { newline: '\n', delimiter };
  const blocks = [Papa.unparse([table.columns.map((column) => column.name)], options)];
  for (let start = 0; start < table.rowCount; start += BLOCK_ROWS) {
    const records = Array.from({ length: Math.min(BLOCK_ROWS, table.rowCount - start) }, (_, i) =>
      table.columns.map((column) => cellText(column, start + i)),
    );
    blocks.push(Papa.unparse(records, options));
  }
  return `${blocks.join('\n')}\n`;
}

/** Where a spreadsheet may begin to read a formula: at the start of a text, or after what it may take for a separator. */
const FORMULA = /(^|[;,|])(?=\s*[=+\-@＝＋－＠])/gu;

/**
 * Records as CSV for a spreadsheet: texts are quoted, control characters become spaces, and what a spreadsheet would
 * take for a formula is preceded by an apostrophe (OWASP, "CSV Injection"). Use it for whatever a person other than the
 * reader may have written.
 */
export function writeSpreadsheetCsv(
  header: readonly string[],
  records: readonly (readonly (string | number | null)[])[],
): string {
  const safe = (value: string | number | null) =>
    typeof value === 'string' ? value.replace(/[\p{Cc}\p{Zl}\p{Zp}]+/gu, ' ').replace(FORMULA, "$1'") : value;
  const lines = Papa.unparse([header.map(safe), ...records.map((record) => record.map(safe))], {
    newline: '\n',
    quotes: (value: unknown) => typeof value === 'string',
  });
  return `${lines}\n`;
}
