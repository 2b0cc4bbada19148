import { describe, expect, it } from '@jest/globals';
import { bytesOf } from '../../../test/files.js';
import { readCsv } from './csv/read.js';
import { read, row, workbook } from './tables-of-tests.js';

describe('a first column without a name', () => {
  it('is the names of rows, as R and pandas write them, and is called so', () => {
    const named = readCsv(bytesOf('"","x","index"\n"1",5,a\n"2",6,b\n'), { file: 'r.csv' });
    expect(named.table.columns.map(({ name }) => name)).toEqual(['index_2', 'x', 'index']);
    expect(named.remarks).toEqual(['r.csv, line 1: column 1 has no name; it is called “index_2”.']);
    expect(readCsv(bytesOf('a,b\n1,2\n'), { file: 'r.csv' }).remarks).toEqual([]);
  });

  it('of a sheet too', async () => {
    const bytes = workbook({ A: row(1, '', 'x') + row(2, 1, 5) + row(3, 2, 6) });
    const { table, remarks } = await read(bytes, 'p.xlsx');
    expect(table.columns.map(({ name }) => name)).toEqual(['index', 'x']);
    expect(remarks).toEqual(['p.xlsx, line 1: column 1 has no name; it is called “index”.']);
  });
});
