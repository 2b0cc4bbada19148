import { describe, expect, it } from '@jest/globals';
import { byWorth, worthText } from './by-worth.js';

const line = (column: string, mean: number | null) => ({ column, mean, se: 0.01, isShown: false });

describe('the table of what columns are worth', () => {
  it('has the largest loss first, what is not defined last, and equal ones by name', () => {
    const lines = [line('b', 0), line('undefined', null), line('a', 0), line('worse', -1), line('best', 2)];
    expect(byWorth(lines).map(({ column }) => column)).toEqual(['best', 'a', 'b', 'worse', 'undefined']);
  });

  it.each([
    [0.1254, 0.0162, 0.14, '0.125 ± 0.016'],
    [-0.00001, 0.006, 0.14, '0.000 ± 0.006'],
    [-0.0031, null, 0.14, '-0.003'],
    [1234.56, 20, 1300, '1235 ± 20'],
    [0, 0, 0, '0 ± 0'],
    [null, null, 1, 'undefined'],
  ])('writes %s ± %s of at most %s as %s', (mean, se, widest, text) => {
    expect(worthText({ mean, se }, widest)).toBe(text);
  });
});
