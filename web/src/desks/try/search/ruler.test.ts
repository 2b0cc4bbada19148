import { describe, expect, it } from '@jest/globals';
import { rulerOf } from './ruler.js';

describe('a ruler of settings', () => {
  it('lies evenly where values are near one another', () => {
    const { at, marks } = rulerOf([2, 10, 6]);
    expect([2, 6, 10].map(at)).toEqual([0, 0.5, 1]);
    expect(marks).toEqual([
      { at: 0, text: '2' },
      { at: 1, text: '10' },
    ]);
  });

  it('is of orders of magnitude where they span much', () => {
    const { at, marks } = rulerOf([0.01, 1, 100]);
    expect(at(1)).toBeCloseTo(0.5);
    expect(marks.map(({ text }) => text)).toEqual(['0.01', '0.1', '1', '10', '100']);
  });

  it('has a nought at its beginning, apart from the least above it', () => {
    const { at, marks } = rulerOf([0, 0.1, 100]);
    expect(at(0)).toBe(0);
    expect(at(0.1)).toBeCloseTo(0.08);
    expect(at(100)).toBe(1);
    expect(marks[0]).toEqual({ at: 0, text: '0' });
  });

  it('of one value has it in the middle', () => {
    expect(rulerOf([3, 3]).at(3)).toBe(0.5);
  });

  it('of values below nought stays even', () => {
    expect(rulerOf([-100, 0, 100]).at(0)).toBe(0.5);
  });
});
