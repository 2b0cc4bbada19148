import { describe, expect, it } from '@jest/globals';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { cellText, type Column } from '../table/table.js';
import { CHUNK_ROWS, decodeColumn, encodeColumn } from './chunk.js';

const back = (column: Column) => decodeColumn(column.name, encodeColumn(column));

describe('column chunks', () => {
  it('give every column of an open data set back as it was', () => {
    for (const column of [...iris().columns, ...diabetes().columns]) expect(back(column)).toEqual(column);
  });

  it('keep missing cells, dates and unusual texts', () => {
    const table = tableOf('n,t,c\n1.5,2024-01-02,é\n,,\n-0.25,2024-02-03,"a,b"\n');
    for (const column of table.columns) {
      const decoded = back(column);
      for (let row = 0; row < 3; row++) expect(cellText(decoded, row)).toBe(cellText(column, row));
    }
  });

  it('cut long columns, with a dictionary in each chunk', () => {
    const rowCount = CHUNK_ROWS + 10;
    const codes = Int32Array.from({ length: rowCount }, (_, i) => (i < CHUNK_ROWS ? 0 : 1));
    const column: Column = { kind: 'category', name: 'c', levels: ['a', 'b'], codes };
    expect(encodeColumn(column)).toHaveLength(2);
    expect(back(column)).toEqual(column);
  });

  it('are equal bytes for equal rows, whatever other rows hold', () => {
    const column = (levels: string[], codes: number[]): Column => ({
      kind: 'category',
      name: 'c',
      levels,
      codes: Int32Array.from(codes),
    });
    expect(encodeColumn(column(['a', 'b', 'c'], [0, 2]))).toEqual(encodeColumn(column(['a', 'c'], [0, 1])));
  });
});
