import { indexName, indexRemark } from './index-name.js';
import { SieveError } from '../../foundation/errors.js';
import { unpacked } from './archive.js';
import { chosenPart } from './chosen-part.js';
import type { ReadOptions, ReadTable } from './read-table.js';
import { alikeDates, saidBy, tableOfValues } from './values.js';

/** Bytes of XML that are read: some four million cells, which take about 1.2 GB of memory. */
const LARGEST_WORKBOOK = 128 * 2 ** 20;

/**
 * Reads one sheet of an Office Open XML workbook. The first row that is not blank is the header.
 *
 * @throws SieveError `xlsx`, `too-large`, `no-such-sheet`, `choose-sheet`, `header`, and as `tableOfValues`
 */
export async function readXlsx(bytes: Uint8Array, options: ReadOptions): Promise<ReadTable> {
  const { file } = options;
  unpacked(
    bytes,
    file,
    (said) => unreadable(file, said),
    () => false,
    LARGEST_WORKBOOK,
    'Save the sheet as CSV: a table of any size is read from it.',
  );
  const { default: readWorkbook } = await import('read-excel-file/universal');
  let sheets: Awaited<ReturnType<typeof readWorkbook<string>>>;
  try {
    const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
    sheets = await readWorkbook<string>(buffer, { trim: false, parseNumber: (text) => text });
  } catch (error) {
    throw unreadable(file, saidBy(error));
  }
  const { place, remarks } = chosenPart(
    sheets.map((sheet) => sheet.sheet),
    'sheet',
    options,
  );
  const read = tableOfSheet(sheets[place]?.data ?? [], options);
  return { ...read, remarks: [...remarks, ...read.remarks] };
}

/** A text (of a number, as it is stored), a truth value, a date, or null. */
type Cell = unknown;

function tableOfSheet(rows: readonly (readonly Cell[])[], options: ReadOptions): ReadTable {
  const { file } = options;
  const isBlank = (row: readonly Cell[]) => row.every((cell) => cell === null || cell === '');
  const top = rows.findIndex((row) => !isBlank(row));
  const header = rows[top];
  if (!header) throw new SieveError('empty-file', `${file} holds a sheet without any cell.`, { file });
  const body: { readonly cells: readonly Cell[]; readonly line: number }[] = [];
  rows.forEach((cells, i) => {
    if (i > top && !isBlank(cells)) body.push({ cells, line: i + 1 });
  });
  const index = indexName(header.map(nameOf));
  const isIndexed = nameOf(header[0]) === '' && body.some(({ cells }) => !isBlank(cells.slice(0, 1)));
  // Not spread over a call, whose arguments are bounded: a sheet has a million rows.
  const width = body.reduce((most, { cells }) => Math.max(most, cells.length), header.length);
  const columns = Array.from({ length: width }, (_, c) => ({
    name: c === 0 && isIndexed ? index : nameOf(header[c]),
    values: alikeDates(body.map(({ cells }) => cells[c] ?? null)),
    position: c + 1,
  })).filter(({ name, values }) => name !== '' || Array.from(values).some((value) => value !== null));
  const nameless = columns.find(({ name }) => name === '');
  if (nameless) {
    throw new SieveError(
      'header',
      `${file}, line ${top + 1}: column ${nameless.position} has cells and no name. Give every column a name.`,
      { file, line: top + 1, column: nameless.position },
    );
  }
  const read = tableOfValues(columns, body.length, options, (row) => body[row]?.line ?? row + 1);
  return isIndexed ? { ...read, remarks: [indexRemark(file, top + 1, index)] } : read;
}

const nameOf = (cell: Cell): string => {
  if (cell instanceof Date) return cell.toISOString().slice(0, 10);
  return typeof cell === 'string' || typeof cell === 'boolean' ? String(cell).trim() : '';
};

const unreadable = (file: string, said: string) =>
  new SieveError('xlsx', `${file} is no workbook (XLSX) that can be read (${said}).`, { file });
