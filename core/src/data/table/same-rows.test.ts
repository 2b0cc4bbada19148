import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { firstAlike } from './same-rows.js';
import type { Column } from './table.js';

const numbers = (name: string, values: readonly number[]): Column => ({
  kind: 'number',
  name,
  values: Float64Array.from(values),
});
const codes = (name: string, values: readonly number[]): Column => ({
  kind: 'category',
  name,
  levels: ['a', 'b', 'c'],
  codes: Int32Array.from(values),
});

describe('rows that are alike', () => {
  it('are found as comparing every pair would find them', () => {
    const row = fc.tuple(
      fc.constantFrom(0, -0, 1, 1.5, NaN, -1, 2 ** 40),
      fc.integer({ min: -1, max: 2 }),
      fc.constantFrom(0, 0.1, 0.1 + Number.EPSILON),
    );
    fc.assert(
      fc.property(fc.array(row, { maxLength: 80 }), (rows) => {
        const columns = [
          numbers(
            'x',
            rows.map(([x]) => x),
          ),
          codes(
            'c',
            rows.map(([, c]) => c),
          ),
          numbers(
            'y',
            rows.map(([, , y]) => y),
          ),
        ];
        const same = (a: readonly number[], b: readonly number[]) =>
          a.every((value, i) => value === b[i] || (Number.isNaN(value) && Number.isNaN(b[i])));
        const expected = rows.map((own, i) => rows.findIndex((other, j) => j <= i && same(own, other)));
        expect(Array.from(firstAlike(columns, rows.length))).toEqual(expected);
      }),
    );
  });

  it('do not clash by the hundred thousand', () => {
    const n = 200_000;
    const x = numbers(
      'x',
      // All distinct, and not in order: 7,919 is prime.
      Array.from({ length: n }, (_, i) => ((i * 7919) % n) / 7),
    );
    expect(firstAlike([x], n).every((first, row) => first === row)).toBe(true);
  });

  it('are none where a column counts the rows', () => {
    const columns = [codes('c', [1, 1, 1]), numbers('row', [1, 2, 9])];
    expect(Array.from(firstAlike(columns, 3))).toEqual([0, 1, 2]);
    expect(Array.from(firstAlike(columns, 3, (row) => row !== 1))).toEqual([0, -1, 2]);
  });

  it('leaves out rows that take no part', () => {
    expect(Array.from(firstAlike([codes('c', [1, 1, 1])], 3, (row) => row > 0))).toEqual([-1, 1, 1]);
  });
});
