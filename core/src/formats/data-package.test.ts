import { describe, expect, it } from '@jest/globals';
import { strFromU8, unzipSync } from 'fflate';
import { tableOf } from '../../test/files.js';
import { readCsv } from './csv/read.js';
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
