import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../../test/files.js';
import { prepare } from '../prepare.js';
import { blanked, done, cells, LENGTH, WIDTH, SPECIES } from './tables-of-tests.js';

describe('steps on categories', () => {
  const table = tableOf('id,forage\n1,lime\n2,lime\n3,ivy\n4,heather\n5,\n');

  it('put rare ones together, or drop their rows; a missing one is not rare', () => {
    const together = done(table, 'rare-categories', { column: 'forage', least: 2, name: 'other' });
    expect(cells(together, 'forage')).toEqual(['lime', 'lime', 'other', 'other', null]);
    const dropped = done(table, 'rare-categories', { column: 'forage', least: 2, how: 'drop' });
    expect(cells(dropped, 'id')).toEqual([1, 2, 5]);
  });

  it('say where cells were filled', () => {
    const filled = done(table, 'fill', {
      columns: ['forage'],
      how: 'constant',
      value: 'unknown',
      indicator: 'yes',
    });
    expect(cells(filled, 'forage').at(-1)).toBe('unknown');
    expect(cells(filled, 'forage_missing')).toEqual([0, 0, 0, 0, 1]);
  });
});

describe('flaws on purpose', () => {
  const table = blanked();

  it('blanks: about the share that was asked for, in the columns alone, the same for a seed', () => {
    const blank = done(table, 'add-blanks', { columns: [LENGTH], share: 20, seed: 5 });
    const missing = cells(blank, LENGTH).filter((cell) => cell === null).length;
    // 150 cells at 20 %: 30, give or take four standard deviations (common practice).
    expect(Math.abs(missing - 30)).toBeLessThan(4 * Math.sqrt(150 * 0.2 * 0.8));
    expect(cells(blank, WIDTH)).toEqual(cells(table, WIDTH));
    expect(cells(done(table, 'add-blanks', { columns: [LENGTH], share: 20, seed: 5 }), LENGTH)).toEqual(
      cells(blank, LENGTH),
    );
  });

  it('noise: as wide as was asked for, about 0', () => {
    const noisy = done(table, 'add-noise', { columns: [LENGTH], share: 50, seed: 5 });
    const differences = cells(noisy, LENGTH).map(
      (cell, row) => Number(cell) - Number(cells(table, LENGTH)[row]),
    );
    const mean = differences.reduce((a, b) => a + b, 0) / 150;
    const sd = Math.sqrt(differences.reduce((sum, d) => sum + (d - mean) ** 2, 0) / 149);
    // The deviation of sepal length is 0.828 (R 4.2, from memory): half of it, within four standard errors.
    expect(Math.abs(sd - 0.414)).toBeLessThan((4 * 0.414) / Math.sqrt(300));
    expect(Math.abs(mean)).toBeLessThan((4 * 0.414) / Math.sqrt(150));
  });

  it('repeated rows: as many as were asked for, each after its row', () => {
    const repeated = done(table, 'add-repeats', { share: 10, seed: 5 });
    expect(repeated.rowCount).toBe(165);
    const { effects } = prepare(table, [{ kind: 'add-repeats', values: { share: 10, seed: 5 } }]);
    expect(effects[0]).toMatchObject({ fallen: 0, repeated: 15 });
  });

  it('a leak: nothing of it wrong gives the classes away', () => {
    const leaked = done(table, 'add-leak', { name: 'hint', column: SPECIES, share: 0, seed: 5 });
    const species = cells(table, SPECIES);
    const labels = [...new Set(species.filter((cell) => cell !== null))].sort();
    expect(cells(leaked, 'hint')).toEqual(
      species.map((cell) => (cell === null ? null : labels.indexOf(cell))),
    );
  });
});
