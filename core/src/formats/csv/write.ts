import Papa from 'papaparse';
import { cellText, type Table } from '../../table/table.js';

/** Records as CSV (RFC 4180 with line feeds); a null is an empty field. */
export function writeRecords(
  header: readonly string[],
  records: readonly (readonly (string | null)[])[],
): string {
  return `${Papa.unparse({ fields: [...header], data: records.map((r) => [...r]) }, { newline: '\n' })}\n`;
}

/** A table as CSV; missing cells are empty. */
export function writeCsv(table: Table): string {
  const records = Array.from({ length: table.rowCount }, (_, row) =>
    table.columns.map((column) => cellText(column, row)),
  );
  return writeRecords(
    table.columns.map((column) => column.name),
    records,
  );
}

/**
 * Records as CSV for a spreadsheet: a text that a spreadsheet would take for a formula is preceded by an
 * apostrophe (OWASP, "CSV Injection"). Use it for whatever a person other than the reader may have written.
 */
export function writeSpreadsheetCsv(
  header: readonly string[],
  records: readonly (readonly (string | number | null)[])[],
): string {
  const safe = (value: string | number | null) =>
    typeof value === 'string' && /^[=+\-@\t\r\n]/.test(value)
      ? `'${value}`
      : value === null
        ? null
        : String(value);
  return writeRecords(
    header,
    records.map((record) => record.map(safe)),
  );
}
