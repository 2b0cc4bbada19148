import { describe, expect, it } from '@jest/globals';
import {
  tableFromArrays,
  tableToIPC,
  vectorFromArray,
  Table as ArrowTable,
  TimestampMillisecond,
  Utf8,
  Int64,
  Float64,
} from 'apache-arrow';
import fc from 'fast-check';
import { zipSync } from 'fflate';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bytesOf, diabetes, iris, tableOf } from '../../../test/files.js';
import { SieveError } from '../../foundation/errors.js';
import { cellText, columnNamed, type Table } from '../table/table.js';
import { FORMATS, formatOf, readTable } from './format.js';
import { writeJson } from './json.js';
import { writeParquet } from './parquet.js';

const texts = (table: Table) =>
  table.columns.map((column) => ({
    name: column.name,
    kind: column.kind,
    cells: Array.from({ length: table.rowCount }, (_, row) => cellText(column, row)),
  }));
const read = (bytes: Uint8Array, file: string) => readTable(bytes, { file });

async function errorOf(bytes: Uint8Array, file: string): Promise<SieveError> {
  try {
    await read(bytes, file);
  } catch (error) {
    if (error instanceof SieveError) return error;
    throw error;
  }
  throw new Error('the file was read');
}

const hives = tableOf(
  'id,weight,mites,queen,marked,seen,place\n007,31.5,12,yes,true,2024-04-01,"a, b"\n012,,3,no,false,2024-05-02,é\n013,28.25,-1,yes,,,x\n',
);

/** A workbook of the least parts that Office Open XML (ECMA-376) asks for; cells are XML of a row. */
function workbook(sheets: Record<string, string>): Uint8Array {
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

const row = (r: number, ...cells: readonly (string | number | { date: number } | null)[]) =>
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

describe('formats', () => {
  it('are known by the end of a name, and an unknown end is refused with the list', async () => {
    expect(formatOf('Hives.PARQUET')?.name).toBe('Parquet');
    expect(formatOf('hives')?.name).toBe('CSV');
    const error = await errorOf(bytesOf('a\n1\n'), 'hives.docx');
    expect(error.message).toContain(
      'hives.docx: the end of its name is not known; tables are read as CSV (.csv',
    );
  });

  it('each refuse an empty file by name', async () => {
    for (const { extensions } of FORMATS)
      expect((await errorOf(new Uint8Array(), `x.${extensions[0]}`)).message).toBe(
        `x.${extensions[0]} is empty.`,
      );
  });

  it.each(['csv', 'tsv', 'json', 'parquet'])('%s gives back what was written', async (extension) => {
    const format = formatOf(`t.${extension}`);
    for (const table of [hives, iris(), diabetes()]) {
      const written = (await format?.write?.(table)) ?? '';
      const bytes = typeof written === 'string' ? bytesOf(written) : written;
      expect(texts((await read(bytes, `t.${extension}`)).table)).toEqual(texts(table));
    }
  });

  it('each survive any bytes with an error of their own', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ minLength: 1, maxLength: 120 }), async (bytes) => {
        for (const { extensions } of FORMATS) {
          try {
            await read(bytes, `x.${extensions[0]}`);
          } catch (error) {
            expect(error).toBeInstanceOf(SieveError);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  it.each(['parquet', 'xlsx', 'json'])(
    'a %s file cut short is refused, wherever it is cut',
    async (extension) => {
      const whole =
        extension === 'parquet'
          ? await writeParquet(hives)
          : extension === 'json'
            ? bytesOf(writeJson(hives).trim())
            : workbook({ hives: row(1, 'a', 'b') + row(2, 1, 2) });
      for (let length = 1; length < whole.length; length += 7)
        await errorOf(whole.subarray(0, length), `x.${extension}`);
    },
  );
});

describe('JSON', () => {
  it('reads records, with columns in the order of their first record', async () => {
    const { table } = await read(bytesOf('[{"a":1,"b":"x"},{"b":"NA","c":true},{"a":2.5}]'), 'x.json');
    expect(texts(table)).toEqual([
      { name: 'a', kind: 'number', cells: ['1', null, '2.5'] },
      { name: 'b', kind: 'category', cells: ['x', null, null] },
      { name: 'c', kind: 'boolean', cells: [null, 'true', null] },
    ]);
  });

  it('keeps the digits of integers beyond 2^53, and names of object properties', async () => {
    const { table } = await read(
      bytesOf('[{"id":12345678901234567890,"__proto__":1,"constructor":"k"}]'),
      'x.json',
    );
    expect(texts(table)).toEqual([
      { name: 'id', kind: 'category', cells: ['12345678901234567890'] },
      { name: '__proto__', kind: 'number', cells: ['1'] },
      { name: 'constructor', kind: 'category', cells: ['k'] },
    ]);
  });

  it.each([
    ['x.json', '[\n{"a":1},\n{"a":}]', 'x.json, line 3, column 6: this is not JSON'],
    ['x.json', '{"a":1}', 'x.json holds no list: a table is a list of records.'],
    ['x.json', '[1,2]', 'x.json, record 1: this is no record of names and values.'],
    ['x.json', '[{"a":[1]}]', 'x.json, row 1: “a” holds a list; a cell is a text'],
    ['x.json', '[]', 'x.json has no columns.'],
    ['x.ndjson', '{"a":1}\n\n{"a":2', 'x.ndjson, line 3, column 7: this is not JSON'],
    ['x.ndjson', '{"a":1}\n7', 'x.ndjson, line 2: this is no record of names and values.'],
  ])('%s: %s is refused with its place', async (file, text, message) => {
    expect((await errorOf(bytesOf(text), file)).message).toContain(message);
  });

  it('reads a record on each line, and says the line of what is no number', async () => {
    const lines = [...Array.from({ length: 9 }, (_, i) => `{"x":${i}}`), '', '{"x":"many"}'];
    const { notes } = await read(bytesOf(lines.join('\n')), 'x.ndjson');
    expect(notes[0]).toBe('1 of 10 cells are not numbers, the first “many” on line 11');
  });
});

describe('workbooks', () => {
  it('are read with dates, numbers and blank cells, from below blank rows', async () => {
    const sheet =
      row(3, 'hive', 'mites', 'seen') +
      row(4, 'h1', 12, { date: 45383 }) +
      row(6, 'h2', null, { date: 45384 });
    const { table, remarks } = await read(workbook({ Spring: sheet, Notes: row(1, 'n') }), 'x.xlsx');
    expect(texts(table)).toEqual([
      { name: 'hive', kind: 'category', cells: ['h1', 'h2'] },
      { name: 'mites', kind: 'number', cells: ['12', null] },
      // Serial day 45383 of the 1900 date system (ECMA-376, 18.17.4).
      { name: 'seen', kind: 'time', cells: ['2024-04-01', '2024-04-02'] },
    ]);
    expect(remarks).toEqual(['x.xlsx has 2 sheets; “Spring” was read.']);
  });

  it('give the sheet that was asked for, or say which there are', async () => {
    const bytes = workbook({ A: row(1, 'a') + row(2, 1), B: row(1, 'b') + row(2, 2) });
    const { table } = await readTable(bytes, { file: 'x.xlsx', sheet: 'B' });
    expect(columnNamed(table, 'b').kind).toBe('number');
    await expect(readTable(bytes, { file: 'x.xlsx', sheet: 'C' })).rejects.toThrow(
      'x.xlsx has no sheet “C”; it has “A”, “B”.',
    );
  });

  it('that would unpack to far too much are refused before they do', async () => {
    const bomb = zipSync({ 'xl/worksheets/sheet1.xml': new Uint8Array(600 * 2 ** 20) }, { level: 1 });
    const error = await errorOf(bomb, 'x.xlsx');
    expect(error.message).toMatch(
      /^x\.xlsx unpacks from \d+\.\d to 600\.0 MB, which is too much\. Save the sheet as CSV/,
    );
  });

  it('of 200,000 rows are read: nothing of them is spread over the arguments of a call', () => {
    const rows = Array.from({ length: 200_000 }, (_, i) => row(i + 2, i)).join('');
    const folder = mkdtempSync(join(tmpdir(), 'sieve-workbook-'));
    const [file, script] = [join(folder, 'x.xlsx'), join(folder, 'read.mjs')];
    writeFileSync(file, workbook({ A: row(1, 'n') + rows }));
    // In a process of its own, as the server reads it: the test's own modules leave less room for calls.
    writeFileSync(
      script,
      `import { readFileSync } from 'node:fs';
      import { readTable } from '${new URL('../../../dist/data/index.js', import.meta.url).href}';
      const { table } = await readTable(readFileSync('${file}'), { file: 'x.xlsx' });
      console.log(table.rowCount);`,
    );
    expect(execFileSync(process.execPath, [script], { env: { PATH: process.env.PATH } }).toString()).toBe(
      '200000\n',
    );
  });

  it('with cells under no name are refused with line and column', async () => {
    const error = await errorOf(workbook({ A: row(1, 'a', null) + row(2, 1, 2) }), 'x.xlsx');
    expect(error.message).toBe('x.xlsx, line 1: column 2 has cells and no name. Give every column a name.');
  });
});

describe('Arrow', () => {
  const arrow = new ArrowTable({
    id: vectorFromArray([1n, 2n, 9007199254740993n], new Int64()),
    x: vectorFromArray([1.5, null, 3], new Float64()),
    t: vectorFromArray(['a', 'b', null], new Utf8()),
    at: vectorFromArray([new Date('2024-04-01T10:00:00Z'), null, null], new TimestampMillisecond()),
  });

  it.each(['file', 'stream'] as const)('is read as a %s', async (kind) => {
    const { table } = await read(tableToIPC(arrow, kind), 'x.arrow');
    expect(texts(table)).toEqual([
      { name: 'id', kind: 'category', cells: ['1', '2', '9007199254740993'] },
      { name: 'x', kind: 'number', cells: ['1.5', null, '3'] },
      { name: 't', kind: 'category', cells: ['a', 'b', null] },
      { name: 'at', kind: 'time', cells: ['2024-04-01T10:00:00', null, null] },
    ]);
    const cut = tableToIPC(arrow, kind).slice(0, -9);
    expect((await errorOf(cut, 'x.arrow')).message).toContain('its end is missing');
  });

  it('keeps plain arrays of numbers', async () => {
    const bytes = tableToIPC(
      tableFromArrays({ n: Float32Array.of(0.5, -2), k: Int32Array.of(3, 4) }),
      'file',
    );
    expect(texts((await read(bytes, 'x.feather')).table).map((c) => c.cells)).toEqual([
      ['0.5', '-2'],
      ['3', '4'],
    ]);
  });
});

describe('ARFF', () => {
  const head =
    "% bees\n@relation 'hives of spring'\n@attribute 'hive id' string\n@attribute mites numeric\n@ATTRIBUTE queen {yes,'no, gone'}\n@data\n";

  it('is read with quotes, missing values and listed values', async () => {
    const { table } = await read(bytesOf(`${head}'h 1',12,yes\n"h\\"2",?,'no, gone'\n'?',3,?\n`), 'x.arff');
    expect(texts(table)).toEqual([
      { name: 'hive id', kind: 'category', cells: ['h 1', 'h"2', null] },
      { name: 'mites', kind: 'number', cells: ['12', null, '3'] },
      { name: 'queen', kind: 'category', cells: ['yes', 'no, gone', null] },
    ]);
  });

  it.each([
    [`${head}h,1,maybe\n`, 'x.arff, line 7: “maybe” is none of the values of queen.'],
    [`${head}h,1\n`, 'x.arff, line 7: 2 values, but there are 3 attributes.'],
    [`${head}{0 h}\n`, 'x.arff, line 7: sparse rows are not read; save the file with dense rows.'],
    [`${head}'h,1,yes\n`, 'x.arff, line 7: a quotation mark in value 1 is never closed.'],
    ['@attribute a nothing\n@data\n', 'x.arff, line 1: “nothing” is no type that is known.'],
    ['@relation x\n@attribute a real\n', 'x.arff has no @data line.'],
  ])('%j is refused with its place', async (text, message) => {
    expect((await errorOf(bytesOf(text), 'x.arff')).message).toBe(message);
  });
});
