import { zipSync } from 'fflate';
import { bytesOf } from '../../../test/files.js';
import { SieveError } from '../../foundation/errors.js';
import { cellText, type Table } from '../table/table.js';
import { readTable } from './format.js';

export const texts = (table: Table) =>
  table.columns.map((column) => ({
    name: column.name,
    kind: column.kind,
    cells: Array.from({ length: table.rowCount }, (_, row) => cellText(column, row)),
  }));

export const read = (bytes: Uint8Array, file: string) => readTable(bytes, { file });

export async function errorOf(bytes: Uint8Array, file: string): Promise<SieveError> {
  try {
    await read(bytes, file);
  } catch (error) {
    if (error instanceof SieveError) return error;
    throw error;
  }
  throw new Error('the file was read');
}

/** A workbook of the least parts that Office Open XML (ECMA-376) asks for; cells are XML of a row. */
export function workbook(sheets: Record<string, string>): Uint8Array {
  const names = Object.keys(sheets);
  const parts: Record<string, Uint8Array> = {
    '[Content_Types].xml': bytesOf(
      `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/></Types>`,
    ),
    '_rels/.rels': bytesOf(
      `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ),
    'xl/workbook.xml': bytesOf(
      `<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets>${names.map((name, i) => `<sheet name="${name}" sheetId="${i + 1}" r:id="rId${i + 1}"/>`).join('')}</sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': bytesOf(
      `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${names.map((_, i) => `<Relationship Id="rId${i + 1}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`).join('')}<Relationship Id="rId90" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles" Target="styles.xml"/></Relationships>`,
    ),
    // Style 1 is the built-in date format 14.
    'xl/styles.xml': bytesOf(
      `<?xml version="1.0"?><styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs></styleSheet>`,
    ),
  };
  names.forEach((name, i) => {
    parts[`xl/worksheets/sheet${i + 1}.xml`] = bytesOf(
      `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${sheets[name]}</sheetData></worksheet>`,
    );
  });
  return zipSync(parts);
}

export const row = (r: number, ...cells: readonly (string | number | { date: number } | null)[]) =>
  `<row r="${r}">${cells
    .map((cell, c) => {
      const at = `${String.fromCharCode(65 + c)}${r}`;
      if (cell === null) return '';
      if (typeof cell === 'string') return `<c r="${at}" t="inlineStr"><is><t>${cell}</t></is></c>`;
      return typeof cell === 'number'
        ? `<c r="${at}"><v>${cell}</v></c>`
        : `<c r="${at}" s="1"><v>${cell.date}</v></c>`;
    })
    .join('')}</row>`;
