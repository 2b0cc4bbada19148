import { unzipSync } from 'fflate';
import { SieveError } from '../errors.js';
import { counted } from '../numbers.js';
import type { ReadOptions, ReadTable } from './read-table.js';
import { alikeDates, saidBy, tableOfValues } from './values.js';

/** Bytes that the parts of a workbook may unpack to in all. */
const LARGEST_UNPACKED = 2 ** 29;

/**
 * Reads one sheet of an Office Open XML workbook. The first row that is not blank is the header.
 *
 * @throws SieveError `xlsx`, `too-large`, `no-such-sheet`, `header`, and as `tableOfValues`
 */
export async function readXlsx(bytes: Uint8Array, options: ReadOptions): Promise<ReadTable> {
  const { file } = options;
  refuseBomb(bytes, file);
  const { default: readWorkbook } = await import('read-excel-file/universal');
  let sheets: Awaited<ReturnType<typeof readWorkbook<string>>>;
  try {
    const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
    sheets = await readWorkbook<string>(buffer, { trim: false, parseNumber: (text) => text });
  } catch (error) {
    throw unreadable(file, saidBy(error));
  }
  const names = sheets.map((sheet) => sheet.sheet);
  const chosen = sheets.find((sheet) => sheet.sheet === (options.sheet ?? names[0]));
  if (!chosen) {
    const known = names.map((name) => `“${name}”`).join(', ');
    throw new SieveError('no-such-sheet', `${file} has no sheet “${options.sheet}”; it has ${known}.`, {
      file,
    });
  }
  const read = tableOfSheet(chosen.data, options);
  const remark = `${file} has ${counted(names.length, 'sheet')}; “${chosen.sheet}” was read.`;
  return names.length > 1 && options.sheet === undefined ? { ...read, remarks: [remark] } : read;
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
  const width = Math.max(header.length, ...body.map(({ cells }) => cells.length));
  const columns = Array.from({ length: width }, (_, c) => ({
    name: nameOf(header[c]),
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
  return tableOfValues(columns, body.length, options, (row) => body[row]?.line ?? row + 1);
}

const nameOf = (cell: Cell): string => {
  if (cell instanceof Date) return cell.toISOString().slice(0, 10);
  return typeof cell === 'string' || typeof cell === 'boolean' ? String(cell).trim() : '';
};

/** A workbook is a zip archive: what its parts would unpack to is looked at before anything is unpacked. */
function refuseBomb(bytes: Uint8Array, file: string): void {
  let unpacked = 0;
  try {
    unzipSync(bytes, {
      filter: ({ originalSize }) => {
        unpacked += originalSize;
        return false;
      },
    });
  } catch (error) {
    throw unreadable(file, saidBy(error));
  }
  if (unpacked > LARGEST_UNPACKED) {
    throw new SieveError(
      'too-large',
      `${file} unpacks from ${megabytes(bytes.length)} to ${megabytes(unpacked)} MB, which is too much.`,
      { file },
    );
  }
}

const megabytes = (bytes: number) => (bytes / 2 ** 20).toFixed(1);

const unreadable = (file: string, said: string) =>
  new SieveError('xlsx', `${file} is no workbook (XLSX) that can be read (${said}).`, { file });
