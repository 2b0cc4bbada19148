import { describe, expect, it } from '@jest/globals';
import { nextSorting, sortedRows, sortingFrom, sortingText } from './sorting.js';

describe('a sorting', () => {
  it('goes from the smallest first to the largest first to none', () => {
    const first = nextSorting(null, 'marks');
    expect(first).toEqual({ key: 'marks', largestFirst: false });
    const second = nextSorting(first, 'marks');
    expect(second).toEqual({ key: 'marks', largestFirst: true });
    expect(nextSorting(second, 'marks')).toBeNull();
    expect(nextSorting(second, 'name')).toEqual({ key: 'name', largestFirst: false });
  });

  it('is the same when it is read from an address, and none for a column that there is not', () => {
    for (const largestFirst of [true, false]) {
      const sorting = { key: 'marks', largestFirst };
      expect(sortingFrom(sortingText(sorting), ['name', 'marks'])).toEqual(sorting);
    }
    expect(sortingFrom('-height', ['name'])).toBeNull();
    expect(sortingFrom(null, ['name'])).toBeNull();
  });

  it('puts rows without a value last, whatever comes first, and leaves equal rows as they came', () => {
    const rows = [
      { id: 'a', marks: 3 },
      { id: 'b', marks: null },
      { id: 'c', marks: 10 },
      { id: 'd', marks: 3 },
    ];
    const ids = (largestFirst: boolean) =>
      sortedRows(rows, ({ marks }) => marks, largestFirst).map(({ id }) => id);
    expect(ids(false)).toEqual(['a', 'd', 'c', 'b']);
    expect(ids(true)).toEqual(['c', 'a', 'd', 'b']);
  });

  it('reads numbers in texts as numbers', () => {
    expect(sortedRows(['row 10', 'row 9', 'Émile', 'Eva'], (text) => text, false)).toEqual([
      'Émile',
      'Eva',
      'row 9',
      'row 10',
    ]);
  });
});
