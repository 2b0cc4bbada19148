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
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { columnNamed } from '../table/table.js';
import { readTable } from './format.js';
import { texts, read, errorOf, workbook, row } from './tables-of-tests.js';

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
    // Packed in a process of its own, where that is quicker by far than among the test's modules.
    const file = join(mkdtempSync(join(tmpdir(), 'sieve-bomb-')), 'x.xlsx');
    const pack = `import { zipSync } from 'fflate';
      import { writeFileSync } from 'node:fs';
      const parts = { 'xl/worksheets/sheet1.xml': new Uint8Array(600 * 2 ** 20) };
      writeFileSync('${file}', zipSync(parts, { level: 1 }));`;
    execFileSync(process.execPath, ['--input-type=module', '-e', pack], { env: { PATH: process.env.PATH } });
    const error = await errorOf(readFileSync(file), 'x.xlsx');
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
