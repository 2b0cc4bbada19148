import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { tableOf } from '../../../test/files.js';
import { chooseRows } from './chosen-rows.js';

const table = tableOf('id,weight,forage\na,3,lime\nb,,ivy\nc,1,\nd,3,heather\ne,2,lime\n');
const ids = 'abcde';
const select = (where: string | null, sort: string | null = null, descending = false) =>
  [...chooseRows(table, { where, sort, descending })].map((row) => ids[row]).join('');

describe('the rows that are looked at', () => {
  it('are those for which a condition holds; one that is not known does not', () => {
    expect(select(null)).toBe('abcde');
    expect(select('weight >= 2')).toBe('ade');
    expect(select('forage == "lime" or missing(weight)')).toBe('abe');
    expect(select('weight > 9')).toBe('');
  });

  it('stand in the order of a column, missing ones last either way, equal ones as they were', () => {
    expect(select(null, 'weight')).toBe('ceadb');
    expect(select(null, 'weight', true)).toBe('adecb');
    expect(select('weight > 1', 'forage')).toBe('dae');
    expect(select(null, 'forage', true)).toBe('aebdc');
  });

  it('say what is wrong with a condition, and with a column', () => {
    expect(() => select('wieght > 1')).toThrow('the nearest is “weight”');
    expect(() => select(null, 'wings')).toThrow('There is no column “wings”.');
  });

  it('are every row once, however they are sorted', () => {
    fc.assert(
      fc.property(fc.constantFrom('id', 'weight', 'forage'), fc.boolean(), (sort, descending) => {
        expect(
          Array.from(select(null, sort, descending))
            .sort()
            .join(''),
        ).toBe(ids);
      }),
    );
  });
});
