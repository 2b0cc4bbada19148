import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { NumberColumn, Table } from '../table/table.js';
import { pearson, spearman } from './association.js';
import { correlations } from './correlations.js';

const tableOf = (columns: readonly (readonly number[])[]): Table => ({
  rowCount: columns[0]?.length ?? 0,
  columns: columns.map((values, i): NumberColumn => ({
    name: `c${i}`,
    kind: 'number',
    values: Float64Array.from(values),
  })),
});

/** Numbers of any size, of few values, or missing. */
const cell = fc.oneof(
  { weight: 4, arbitrary: fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e6, max: 1e6 }) },
  { weight: 2, arbitrary: fc.constantFrom(0, 1, 1e9, 1e9 + 1) },
  { weight: 2, arbitrary: fc.constant(NaN) },
);
const columns = fc
  .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 40 }))
  .chain(([width, rows]) =>
    fc.array(fc.array(cell, { minLength: rows, maxLength: rows }), { minLength: width, maxLength: width }),
  );

describe('correlations of columns with gaps', () => {
  it('are those of each pair over the rows that have both', () => {
    fc.assert(
      fc.property(columns, fc.constantFrom('Pearson' as const, 'Spearman' as const), (given, measure) => {
        const table = tableOf(given);
        const { values } = correlations(table, measure);
        const of = measure === 'Pearson' ? pearson : spearman;
        const read = given.map((column) => Float64Array.from(column));
        read.forEach((a, i) =>
          read.forEach((b, j) => {
            const [found, wanted] = [values[i]?.[j] ?? null, of(a, b)];
            if (wanted === null) expect(found).toBeNull();
            else expect(found).toBeCloseTo(wanted, 6);
          }),
        );
      }),
      { numRuns: 3000 },
    );
  });

  it('are null where the rows that have both show no spread, though the column does', () => {
    const a = [1e9, 1e9, 1e9, 7];
    const b = [1, 2, 3, NaN];
    expect(correlations(tableOf([a, b])).values[0]?.[1]).toBeNull();
    expect(correlations(tableOf([[NaN, 1, NaN], [1, NaN, 2]])).values[0]?.[1]).toBeNull(); // prettier-ignore
  });

  it('are right where two numbers lie so close that no double is their mean', () => {
    const a = [-999999.9999999471, -999999.9999998308];
    expect(pearson(Float64Array.from(a), Float64Array.of(0, 1))).toBeCloseTo(1, 12);
    expect(correlations(tableOf([a, [0, 1]])).values[0]?.[1]).toBeCloseTo(1, 12);
  });

  it('are the same in whatever unit they are, also one whose squares no double holds', () => {
    const a = [1, 4, 2, NaN, 7, 5];
    const b = [3, NaN, 1, 2, 9, 4];
    const [plain, large, small] = [1, 1e200, 1e-200].map(
      (unit) => correlations(tableOf([a.map((value) => value * unit), b])).values[0]?.[1] ?? null,
    );
    expect(plain).not.toBeNull();
    expect(large).toBeCloseTo(plain ?? 0, 12);
    expect(small).toBeCloseTo(plain ?? 0, 12);
  });
});
