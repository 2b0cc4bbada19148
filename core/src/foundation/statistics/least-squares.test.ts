import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { testFile } from '../../../test/files.js';
import { readCsv } from '../../data/formats/csv/read.js';
import { at } from '../numbers.js';
import { columnNamed, isCoded } from '../../data/table/table.js';
import { leastSquares } from './least-squares.js';

describe('least squares', () => {
  it('gives the certified slopes and R² of Longley’s data (NIST StRD; the certified values from memory)', () => {
    const { table } = readCsv(testFile('reference/ols-longley/data.csv'), { file: 'longley.csv' });
    const values = (name: string) => {
      const column = columnNamed(table, name);
      return isCoded(column) ? new Float64Array() : column.values;
    };
    const { slopes, r2 } = leastSquares(
      ['GNPDEFL', 'GNP', 'UNEMP', 'ARMED', 'POP', 'YEAR'].map(values),
      values('TOTEMP'),
    );
    const certified = [
      15.0618722713733, -0.35819179292591e-1, -2.02022980381683, -1.03322686717359, -0.511041056535807e-1,
      1829.15146461355,
    ];
    certified.forEach((slope, i) => expect(Math.abs(at(slopes, i) / slope - 1)).toBeLessThan(1e-8));
    expect(r2).toBeCloseTo(0.995479004577296, 11);
  });

  it('finds the numbers by which columns were summed, whatever their sizes', () => {
    const slope = fc.integer({ min: -9, max: 9 });
    fc.assert(
      fc.property(fc.tuple(slope, slope, slope), fc.integer({ min: 0, max: 1000 }), ([a, b, c], shift) => {
        const n = 40;
        const x = Float64Array.from({ length: n }, (_, i) => (i * 7) % 11);
        const y = Float64Array.from({ length: n }, (_, i) => 1e6 * ((i * 5) % 13));
        const z = Float64Array.from({ length: n }, (_, i) => ((i * i) % 17) / 1e4);
        const sum = x.map((value, i) => shift + a * value + b * at(y, i) + c * at(z, i));
        const { slopes } = leastSquares([x, y, z], sum);
        [a, b].forEach((expected, i) => expect(at(slopes, i)).toBeCloseTo(expected, 6));
      }),
      { numRuns: 40 },
    );
  });

  it('gives a column that others make up no slope, and still explains the whole', () => {
    const x = Float64Array.of(1, 2, 3, 4, 5, 7);
    const y = Float64Array.of(2, 1, 4, 3, 6, 5);
    const { slopes, r2 } = leastSquares([x, y, x.map((value, i) => value + at(y, i))], x);
    expect(slopes[2]).toBe(0);
    expect(r2).toBeCloseTo(1, 12);
  });
});
