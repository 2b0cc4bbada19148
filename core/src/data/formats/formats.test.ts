import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bytesOf, diabetes, iris, tableOf } from '../../../test/files.js';
import { SieveError } from '../../foundation/errors.js';
import { FORMATS, formatOf } from './format.js';
import { writeJson } from './json.js';
import { writeParquet } from './parquet.js';
import { texts, read, errorOf, workbook, row } from './tables-of-tests.js';

const hives = tableOf(
  'id,weight,mites,queen,marked,seen,place\n007,31.5,12,yes,true,2024-04-01,"a, b"\n012,,3,no,false,2024-05-02,é\n013,28.25,-1,yes,,,x\n',
);

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
