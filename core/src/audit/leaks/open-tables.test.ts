import { expect, it } from '@jest/globals';
import { diabetes, iris } from '../../../test/files.js';
import { openTableLike } from './open-tables.js';

it('open tables are known by their shape, with an identifier more too', () => {
  const [flowers, patients] = [iris(), diabetes()];
  expect(openTableLike(flowers.rowCount, flowers.columns.length)).toBe('iris');
  expect(openTableLike(patients.rowCount, patients.columns.length + 1)).toBe('diabetes progression');
  // Two of 768 rows: the nearer in columns.
  expect([openTableLike(768, 9), openTableLike(768, 10)]).toEqual(['Pima diabetes', 'energy efficiency']);
});

it('other tables are not', () => {
  expect(openTableLike(151, 5)).toBeNull();
  expect(openTableLike(150, 12)).toBeNull();
  expect(openTableLike(1481, 18)).toBeNull();
});
