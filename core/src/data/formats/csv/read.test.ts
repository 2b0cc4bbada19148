import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bytesOf, diabetes, iris, tableOf } from '../../../../test/files.js';
import { SieveError } from '../../../foundation/errors.js';
import { cellText, columnNamed } from '../../table/table.js';
import { readCsv } from './read.js';
import { writeCsv, writeRecords, writeSpreadsheetCsv } from './write.js';

const read = (bytes: Uint8Array) => readCsv(bytes, { file: 'hives.csv' });

function errorOf(bytes: Uint8Array): SieveError {
  try {
    read(bytes);
  } catch (error) {
    if (error instanceof SieveError) return error;
    throw error;
  }
  throw new Error('the file was read');
}

const cells = (text: string, name: string) => {
  const table = tableOf(text);
  return Array.from({ length: table.rowCount }, (_, row) => cellText(columnNamed(table, name), row));
};

describe('reading a table', () => {
  it('reads open data sets with their types', () => {
    expect(iris().columns.map((column) => column.kind)).toEqual([
      'number',
      'number',
      'number',
      'number',
      'category',
    ]);
    expect(diabetes().rowCount).toBe(442);
    expect(diabetes().columns.every((column) => column.kind === 'number')).toBe(true);
  });

  it.each([
    [',', 'a,b\n1,x\n'],
    [';', 'a;b\n1,5;x\n'],
    ['\t', 'a\tb\n1\tx\n'],
    ['|', 'a|b\n1|x\n'],
    [',', 'alone\n1\n2\n'],
  ])('detects the delimiter %j', (delimiter, text) => {
    expect(read(bytesOf(text)).dialect.delimiter).toBe(delimiter);
  });

  it.each([
    ['utf-8', Uint8Array.of(0x6e, 0x0a, 0xc3, 0xa9, 0x0a)],
    ['utf-8', Uint8Array.of(0xef, 0xbb, 0xbf, 0x6e, 0x0a, 0xc3, 0xa9, 0x0a)],
    ['windows-1252', Uint8Array.of(0x6e, 0x0a, 0xe9, 0x0a)],
    ['utf-16le', Uint8Array.of(0xff, 0xfe, 0x6e, 0, 0x0a, 0, 0xe9, 0, 0x0a, 0)],
  ])('decodes %s and drops a byte order mark', (encoding, bytes) => {
    const { dialect, table } = read(bytes);
    expect(dialect.encoding).toBe(encoding);
    expect(table.columns[0]?.name).toBe('n');
    expect(cellText(columnNamed(table, 'n'), 0)).toBe('é');
  });

  it('keeps delimiters, quotes and line ends within quoted fields', () => {
    expect(cells('a,b\n1,"x, ""y""\nz"\n2,w\n', 'b')).toEqual(['x, "y"\nz', 'w']);
  });

  it('takes each usual marker for a missing cell', () => {
    expect(cells('a,b\n1,\n2, \n3,NA\n4,N/A\n5,NaN\n6,null\n7,?\n8,0\n', 'b')).toEqual([
      ...Array<null>(7).fill(null),
      '0',
    ]);
  });

  it('reads carriage returns and a file without a last line end', () => {
    expect(cells('a,b\r\n1,x\r\n2,y', 'b')).toEqual(['x', 'y']);
  });

  it('reads what it writes', () => {
    const text = fc
      .string({ maxLength: 8 })
      .filter((s) => s.trim() !== '' && s.trim() === s && !s.includes('\r'));
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -1e9, max: 1e9 }), text), { minLength: 2, maxLength: 30 }),
        (rows) => {
          const written = writeRecords(
            ['n', 't'],
            rows.map(([n, t]) => [String(n), t]),
          );
          const table = tableOf(written);
          expect(writeCsv(table)).toBe(writeCsv(tableOf(writeCsv(table))));
          expect(table.rowCount).toBe(rows.length);
        },
      ),
    );
  });
});

describe('types', () => {
  const kind = (...values: string[]) =>
    tableOf(`id,x\n${values.map((v, i) => `k${i},${v}`).join('\n')}\n`).columns[1]?.kind;

  it.each([
    ['number', ['1', '-2.5', '1e3', '.5', '']],
    ['category', ['1', '2', 'many']],
    ['category', ['007', '012']],
    ['category', ['9007199254740993', '9007199254740994']],
    ['boolean', ['true', 'FALSE', '']],
    ['time', ['2024-02-29', '2023-12-31']],
    ['category', ['2023-02-29', '2023-12-31']],
    ['time', ['2024-02-29T10:30Z', '2024-02-29T10:31Z']],
    ['category', ['2024-02-29', '2024-02-29T10:31Z']],
    ['text', Array.from({ length: 30 }, (_, i) => `colony ${i}`)],
    ['category', Array.from({ length: 30 }, (_, i) => `apiary ${i % 4}`)],
  ])('%s from %j', (expected, values) => {
    expect(kind(...values)).toBe(expected);
  });

  it('says what stopped a column from being numeric, with the line', () => {
    const values = [...Array.from({ length: 9 }, (_, i) => String(i)), 'none seen'];
    const { notes } = read(bytesOf(`x,y\n${values.map((v) => `${v},1`).join('\n')}\n`));
    expect(notes[0]).toBe('1 of 10 cells are not numbers, the first “none seen” on line 11');
  });

  it('says that codes would lose digits', () => {
    expect(read(bytesOf('x,y\n007,1\n012,2\n')).notes[0]).toBe(
      'kept as text: 2 cells would lose digits as a number',
    );
  });

  it('writes dates back as they came', () => {
    expect(cells('a,t\n1,2024-02-29 10:30:05\n2,\n', 't')).toEqual(['2024-02-29 10:30:05', null]);
  });
});

describe('files that are no table', () => {
  const zip = Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0, 0);
  it.each([
    ['an empty file', new Uint8Array(), 'empty-file', 'hives.csv is empty.'],
    ['blank space', bytesOf(' \n\n'), 'empty-file', 'hives.csv holds nothing but blank space.'],
    [
      'a renamed spreadsheet',
      zip,
      'not-text',
      'hives.csv is a spreadsheet or a zip archive, whatever its name says. Save it as CSV and import that file.',
    ],
    [
      'a picture',
      Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 1),
      'not-text',
      'hives.csv is a picture. Save it as CSV and import that file.',
    ],
    [
      'a web page',
      bytesOf('\n<!DOCTYPE html><html></html>'),
      'html-file',
      'hives.csv is a web page, not a table. Perhaps a sign-in page was saved instead of the data.',
    ],
    [
      'a zero byte',
      bytesOf('a,b\n1,\0\n'),
      'not-text',
      'hives.csv holds a zero byte on line 2: it is binary or damaged, not a text table.',
    ],
    ['a header alone', bytesOf('a,b\n'), 'csv-no-rows', 'hives.csv has a header and no rows under it.'],
    [
      'a short line',
      bytesOf('a,b,c\n1,2,3\n4,5\n'),
      'csv-ragged',
      'hives.csv, line 3: 2 fields, but the header has 3.',
    ],
    [
      'a long line',
      bytesOf('a,b\n"x\ny",2\n4,5,6\n'),
      'csv-ragged',
      'hives.csv, line 4: 3 fields, but the header has 2.',
    ],
    [
      'an open quote',
      bytesOf('a,b\n1,x\n2,"y\n3,z\n'),
      'csv-open-quote',
      'hives.csv, line 3: a quotation mark in field 2 is opened and never closed.',
    ],
    ['text after a quote', bytesOf('a,b\n1,"x"y\n2,z\n'), 'csv-quote', null],
    [
      'a column without a name',
      bytesOf('a,,c\n1,2,3\n'),
      'csv-header',
      'hives.csv, line 1: column 2 has no name. Give every column a name.',
    ],
    [
      'two columns of one name',
      bytesOf('a,b,a\n1,2,3\n'),
      'csv-header',
      'hives.csv, line 1: columns 1 and 3 are both called “a”.',
    ],
  ])('%s is refused with its place', (_, bytes, code, message) => {
    const error = errorOf(bytes);
    expect(error.code).toBe(code);
    if (message !== null) expect(error.message).toBe(message);
  });

  it('never fails in any other way, whatever the bytes', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.uint8Array({ maxLength: 200 }),
          fc
            .string({ unit: fc.constantFrom('a', '1', ',', ';', '"', '\n', '\r', ' ', '\t'), maxLength: 60 })
            .map(bytesOf),
        ),
        (bytes) => {
          try {
            const { table } = read(bytes);
            expect(table.rowCount).toBeGreaterThan(0);
          } catch (error) {
            expect(error).toBeInstanceOf(SieveError);
          }
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe('CSV for spreadsheets', () => {
  it('neutralises what a spreadsheet would run', () => {
    const csv = writeSpreadsheetCsv(
      ['name', '=title', 'marks'],
      [
        ['=1+1', 'a;=cmd', 3],
        ['@x', 'b\t+1', -2],
        ['+y', ' -z', null],
        ['＝w', 'two\rlines', 0],
        ['Ada "A"', 'well-known', 1.5],
      ],
    );
    expect(csv).toBe(
      [
        `"name","'=title","marks"`,
        `"'=1+1","a;'=cmd",3`,
        `"'@x","b +1",-2`,
        `"'+y","' -z",`,
        `"'＝w","two lines",0`,
        `"Ada ""A""","well-known",1.5`,
        '',
      ].join('\n'),
    );
  });
});
