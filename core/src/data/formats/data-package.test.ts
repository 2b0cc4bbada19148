import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { readCsv } from './csv/read.js';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { readTable } from './format.js';
import { writeDataPackage } from './data-package.js';

describe('a data package', () => {
  const table = tableOf(
    'id,weight,seen,at,fed\n1,2.5,2026-03-01,2026-03-01T04:05:06Z,true\n2,,2026-03-02,,false\n',
  );
  const steps = [{ kind: 'shuffle', values: { seed: 3 } }];
  const files = unzipSync(writeDataPackage(table, 'Hive records, 2026', steps));
  const json = (name: string) => JSON.parse(strFromU8(files[name] ?? new Uint8Array())) as never;

  it('describes its columns in the words of Table Schema', () => {
    expect(json('datapackage.json')).toMatchObject({
      profile: 'tabular-data-package',
      name: 'hive-records-2026',
      resources: [
        {
          path: 'hive-records-2026.csv',
          schema: {
            fields: [
              { name: 'id', type: 'number' },
              { name: 'weight', type: 'number' },
              { name: 'seen', type: 'date' },
              { name: 'at', type: 'datetime', format: 'any' },
              { name: 'fed', type: 'boolean' },
            ],
            missingValues: [''],
          },
        },
      ],
    });
  });

  it('holds the table and the steps that it was made by', () => {
    const csv = files['hive-records-2026.csv'] ?? new Uint8Array();
    expect(readCsv(csv, { file: 'x.csv' }).table).toEqual(table);
    expect(json('steps.json')).toEqual({ version: 1, steps });
  });

  it('has the same bytes whenever it is made', () => {
    expect(writeDataPackage(table, 'x', [])).toEqual(writeDataPackage(table, 'x', []));
  });
});

describe('a data package that is read', () => {
  const zip = (files: Record<string, unknown>) =>
    zipSync(
      Object.fromEntries(
        Object.entries(files).map(([name, text]) => [
          name,
          strToU8(typeof text === 'string' ? text : JSON.stringify(text)),
        ]),
      ),
    );
  const resource = (name: string, fields: object[] = [], more: object = {}) => ({
    name,
    path: `${name}.csv`,
    schema: { fields, ...more },
  });
  const read = (files: Record<string, unknown>, options: object = {}) =>
    readTable(zip(files), { file: 'x.zip', ...options });

  it('gives back the table that was written', async () => {
    const table = tableOf('id,weight,fed\nh1,2.5,true\nh2,,false\nh3,1,true\n');
    const { table: again } = await readTable(writeDataPackage(table, 'Hives', []), { file: 'hives.zip' });
    expect(again).toEqual(table);
  });

  it('takes the words, the missing values and the strings of its schema as they are declared', async () => {
    const fields = [
      { name: 'code', type: 'string', description: 'As painted on the hive' },
      { name: 'weight', type: 'number' },
    ];
    const { table, descriptions } = await read({
      'datapackage.json': { resources: [resource('hives', fields, { missingValues: ['-9'] })] },
      'hives.csv': 'code,weight\n7,3\n8,-9\n',
    });
    expect(table.columns.map(({ kind }) => kind)).toEqual(['category', 'number']);
    expect(descriptions).toEqual({ code: 'As painted on the hive' });
    expect(table.columns[1]).toMatchObject({ values: Float64Array.of(3, NaN) });
  });

  it('of several tables has one chosen', async () => {
    const files = {
      'datapackage.json': { resources: [resource('a'), { name: 'notes', path: 'n.pdf' }, resource('b')] },
      'a.csv': 'x\n1\n',
      'b.csv': 'y\n2\n',
    };
    expect((await read(files)).remarks).toEqual(['x.zip has 2 tables; “a” was read.']);
    expect((await read(files, { sheet: 'b' })).table.columns[0]?.name).toBe('y');
    await expect(read(files, { mustChoose: true })).rejects.toMatchObject({
      code: 'choose-sheet',
      place: { choices: ['a', 'b'] },
    });
    await expect(read(files, { sheet: 'c' })).rejects.toThrow('x.zip has no table “c”; it has “a”, “b”.');
  });

  it.each([
    [{ 'a.csv': 'x\n1\n' }, 'it lacks datapackage.json'],
    [{ 'datapackage.json': '{' }, 'datapackage.json is no JSON'],
    [
      { 'datapackage.json': { resources: [{ path: 'a.pdf' }] } },
      'names no resource with the path of a CSV file',
    ],
    [{ 'datapackage.json': { resources: [resource('a')] } }, 'it lacks a.csv, which its descriptor names'],
    [{ 'datapackage.json': { resources: [{ path: '../a.csv' }] } }, 'it lacks ../a.csv'],
  ])('%j says what is wrong', async (files, message) => {
    await expect(read(files)).rejects.toThrow(message);
  });

  it('that is no archive says so', async () => {
    await expect(readTable(strToU8('not a zip'), { file: 'x.zip' })).rejects.toThrow(
      'x.zip is no Data Package that can be read: it is no zip archive',
    );
  });
});
