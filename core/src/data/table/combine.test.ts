import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { tableOf } from '../../../test/files.js';
import { writeCsv } from '../formats/csv/write.js';
import { appendRows, joinByKey } from './combine.js';
import { firstAlike } from './same-rows.js';

const hives = tableOf('id,apiary,weight\nh1,Alder,10\nh2,Birch,\nh3,Alder,12\n');

describe('rows below', () => {
  it('meet by the names of columns, and cells that one lacks are missing', () => {
    const more = tableOf('weight,id,queen\n9,k1,young\n,k2,old\n');
    expect(writeCsv(appendRows(hives, more))).toBe(
      'id,apiary,weight,queen\nh1,Alder,10,\nh2,Birch,,\nh3,Alder,12,\nk1,,9,young\nk2,,,old\n',
    );
  });

  it('are refused where a column holds something else, or none is the same', () => {
    expect(() => appendRows(hives, tableOf('id,weight\nk1,heavy\nk2,light\n'))).toThrow(
      'weight holds numbers in the table and categories in the file: convert one of them first.',
    );
    expect(() => appendRows(hives, tableOf('x,y\n1,2\n'))).toThrow('The file has no column of this table');
  });

  it('are the rows of both, in their order', () => {
    const row = fc.tuple(fc.constantFrom('a', 'b', ''), fc.constantFrom('1', '2', ''));
    const rows = fc.array(row, { minLength: 1, maxLength: 20 });
    const csv = (lines: readonly (readonly string[])[]) =>
      `key,n\nz,7\n${lines.map((line) => line.join(',')).join('\n')}\n`;
    fc.assert(
      fc.property(rows, rows, (a, b) => {
        const both = appendRows(tableOf(csv(a)), tableOf(csv(b)));
        expect(both).toEqual(tableOf(csv([...a, ['z', '7'], ...b])));
        expect(firstAlike(both.columns, both.rowCount)[a.length + 1]).toBe(0);
      }),
    );
  });
});

describe('columns beside', () => {
  it('are found by the key; rows without one keep missing cells, names that are taken get a number', () => {
    const sites = tableOf('apiary,altitude,weight\nBirch,300,1\nElm,10,2\nAlder,120,3\n');
    expect(writeCsv(joinByKey(hives, sites, 'apiary'))).toBe(
      'id,apiary,weight,altitude,weight_2\nh1,Alder,10,120,3\nh2,Birch,,300,1\nh3,Alder,12,120,3\n',
    );
    const one = tableOf('apiary,altitude\nBirch,300\n');
    expect(writeCsv(joinByKey(hives, one, 'apiary'))).toBe(
      'id,apiary,weight,altitude\nh1,Alder,10,\nh2,Birch,,300\nh3,Alder,12,\n',
    );
  });

  it('are refused where a key occurs twice, meets nothing, or is not there', () => {
    expect(() => joinByKey(hives, tableOf('apiary,x\nAlder,1\nAlder,2\n'), 'apiary')).toThrow(
      'The file has apiary “Alder” in rows 1 and 2',
    );
    expect(() => joinByKey(hives, tableOf('apiary,x\nElm,1\n'), 'apiary')).toThrow(
      'None of the 1 value of apiary in the file is in the table.',
    );
    expect(() => joinByKey(hives, tableOf('site,x\nElm,1\n'), 'apiary')).toThrow(
      'There is no column “apiary”.',
    );
  });
});
