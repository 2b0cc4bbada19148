import { strToU8, zipSync } from 'fflate';

const cellXml = (cell, at) =>
  typeof cell === 'number'
    ? `<c r="${at}"><v>${cell}</v></c>`
    : `<c r="${at}" t="inlineStr"><is><t>${cell}</t></is></c>`;

/** A workbook of one sheet with these rows, of at most 26 cells each. */
export function workbook(rows) {
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  const packaged = 'http://schemas.openxmlformats.org/package/2006';
  const sheetRows = rows.map(
    (cells, r) =>
      `<row r="${r + 1}">${cells.map((cell, c) => cellXml(cell, `${String.fromCharCode(65 + c)}${r + 1}`)).join('')}</row>`,
  );
  return zipSync({
    '[Content_Types].xml': strToU8(
      `<Types xmlns="${packaged}/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>`,
    ),
    'xl/workbook.xml': strToU8(
      `<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="A" sheetId="1" r:id="r1"/></sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      `<Relationships xmlns="${packaged}/relationships"><Relationship Id="r1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    ),
    'xl/worksheets/sheet1.xml': strToU8(
      `<worksheet xmlns="${main}"><sheetData>${sheetRows.join('')}</sheetData></worksheet>`,
    ),
  });
}
