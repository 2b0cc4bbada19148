import { describe, expect, it } from '@jest/globals';
import { groupsShown, type Group } from './groups-shown.js';

const group = (value: string, rows: number, accuracy: number | null, rmse: number): Group => ({
  value,
  rows,
  figures: {
    accuracy: accuracy === null ? { value: null, reason: 'no row' } : { value: accuracy },
    rmse: { value: rmse },
  },
});
const GROUPS = [group('Ash', 5, 0.9, 1), group('Birch', 50, null, 3), group('Moor ash', 20, 0.5, 2)];
const names = (wanted: string, order: string) => groupsShown(GROUPS, wanted, order).map(({ value }) => value);

describe('subgroups', () => {
  it('are shown by their rows, by name, or the worst first by a metric; without a score last', () => {
    expect(names('', 'rows')).toEqual(['Birch', 'Moor ash', 'Ash']);
    expect(names('', 'value')).toEqual(['Ash', 'Birch', 'Moor ash']);
    expect(names('', 'accuracy')).toEqual(['Moor ash', 'Ash', 'Birch']);
    expect(names('', 'rmse')).toEqual(['Birch', 'Moor ash', 'Ash']);
  });

  it('are found by a part of their name, in any case', () => {
    expect(names(' ASH ', 'value')).toEqual(['Ash', 'Moor ash']);
    expect(names('elm', 'rows')).toEqual([]);
    expect(GROUPS.map(({ value }) => value)).toEqual(['Ash', 'Birch', 'Moor ash']);
  });
});
