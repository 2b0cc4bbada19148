import { describe, expect, it } from '@jest/globals';
import { iris, diabetes, tableOf } from '../../../test/files.js';
import { seededRandom } from '../../foundation/random/random.js';
import type { Table } from '../../data/table/table.js';
import type { Watched } from './leak.js';
import { watchRepeats } from './rows.js';
import { watchLeaks } from './watch.js';

const N = 120;
const rowsOf = (cells: (i: number) => readonly (string | number)[]) =>
  Array.from({ length: N }, (_, i) => cells(i).join(',')).join('\n');
const streams = new Map<number, Int32Array>();
/** Whole numbers up to 10,006 without any order. */
function noise(i: number, stream: number): number {
  let values = streams.get(stream);
  if (!values) {
    const random = seededRandom(stream, 'leaks');
    values = Int32Array.from({ length: N }, () => random.below(10_007));
    streams.set(stream, values);
  }
  return values[i] ?? 0;
}
const roles = (over: Partial<Watched['roles']> = {}): Watched['roles'] => ({
  target: 'y',
  task: 'binary',
  positive: 'yes',
  identifier: null,
  group: null,
  time: null,
  weight: null,
  withheld: [],
  ...over,
});
const label = (i: number) => (noise(i, 5) % 2 ? 'yes' : 'no');
const found = (table: Table, over?: Partial<Watched['roles']>) =>
  watchLeaks(table, roles(over)).map((leak) => [leak.kind, leak.column]);

describe('flaws of columns', () => {
  it('finds two that are nearly the same, and not two that merely go together', () => {
    const pair = (spread: number) =>
      tableOf(
        `sun,warmth,y\n${rowsOf((i) => [noise(i, 1), 2 * noise(i, 1) + noise(i, 2) * spread, label(i)])}\n`,
      );
    expect(found(pair(0.1))).toEqual([['alike', 'warmth']]);
    expect(found(pair(1))).toEqual([]);
  });

  it('finds values in very few rows, but not in the column of groups', () => {
    const table = tableOf(
      `forage,x,y\n${rowsOf((i) => [i % 40 === 0 ? 'heath' : i % 2 ? 'lime' : 'clover', noise(i, 1) + i / 1000, label(i)])}\n`,
    );
    expect(found(table)).toEqual([['rare', 'forage']]);
    expect(found(table, { group: 'forage' })).toEqual([]);
  });

  it('finds dates in two forms that were read as texts', () => {
    const day = (i: number) =>
      i % 2 ? `${(i % 28) + 1}.07.2026` : `2026-07-${String((i % 28) + 1).padStart(2, '0')}`;
    const table = tableOf(`harvested,y\n${rowsOf((i) => [day(i), label(i)])}\n`);
    expect(found(table)).toContainEqual(['dates', 'harvested']);
  });

  it('finds the label of a row in its text', () => {
    const kinds = ['heather', 'clover', 'lime'];
    const table = (named: boolean) =>
      tableOf(
        `file,x,y\n${rowsOf((i) => [`scan_${i}_${named ? kinds[i % 3] : 'grain'}.png`, noise(i, 1), kinds[i % 3] ?? ''])}\n`,
      );
    const over = { task: 'multiclass', positive: null } as const;
    expect(found(table(true), over)).toContainEqual(['label-in-text', 'file']);
    expect(found(table(false), over).map(([kind]) => kind)).not.toContain('label-in-text');
  });

  it('finds gaps in a series of equal steps, within its groups', () => {
    const table = (skip: number) =>
      tableOf(
        `hive,hour,x,y\n${rowsOf((i) => [i % 2 ? 'A' : 'B', Math.floor(i / 2) + (i >= 60 ? skip : 0), noise(i, 1), label(i)])}\n`,
      );
    const over = { group: 'hive', time: 'hour' };
    expect(found(table(0), over)).toEqual([]);
    expect(found(table(7), over)).toEqual([['gaps', 'hour']]);
    const [gap] = watchLeaks(table(7), roles(over));
    expect(gap?.message).toBe('hour runs in equal steps but for 2 gaps, the widest of 8 steps.');
  });
});

describe('a sensor that drifts', () => {
  const HOURS = 40;
  const table = (drift: number) =>
    tableOf(
      `scale,hour,weight,y\n${Array.from({ length: 8 * HOURS }, (_, i) => {
        const [scale, hour] = [i % 8, Math.floor(i / 8)];
        const weight =
          30 + hour * (0.1 + scale / 200) + noise(i % N, 1) / 1e5 + (scale === 5 ? drift * hour : 0);
        return [`s${scale}`, hour, weight.toFixed(4), noise(i % N, 5) % 2 ? 'yes' : 'no'].join(',');
      }).join('\n')}\n`,
    );
  const over = { group: 'scale', time: 'hour' };
  const drifts = (t: Table) => watchLeaks(t, roles(over)).filter(({ kind }) => kind === 'drift');

  it('is found by the trend of its group', () => {
    expect(drifts(table(0.3)).map(({ column, message }) => [column, message.split(':')[0]])).toEqual([
      ['weight', 'weight drifts over hour where scale is s5'],
    ]);
  });

  it('is not found where trends differ as they usually do, nor without groups or time', () => {
    expect(drifts(table(0))).toEqual([]);
    expect(watchLeaks(table(0.3), roles({ time: 'hour' })).map(({ kind }) => kind)).not.toContain('drift');
  });
});

describe('the leak watch', () => {
  it('finds nothing in a table without flaws', () => {
    const table = tableOf(`a,b,y\n${rowsOf((i) => [noise(i, 1), noise(i, 2) / 8, label(i)])}\n`);
    expect(found(table)).toEqual([]);
  });

  it('finds columns that name rows, never vary, or have very many values', () => {
    const table = tableOf(
      `id,code,same,many,y\n${rowsOf((i) => [i + 1, `k${i}`, 'x', `v${noise(i, 3) % 60}`, label(i)])}\n`,
    );
    expect(found(table)).toEqual([
      ['identifier', 'id'],
      ['identifier', 'code'],
      ['constant', 'same'],
      ['many-valued', 'many'],
    ]);
    expect(found(table, { identifier: 'id', withheld: ['code', 'same', 'many'] })).toEqual([
      ['known-after', 'code'],
      ['known-after', 'same'],
      ['known-after', 'many'],
    ]);
  });

  it('finds a column of numbers and one of classes that give two classes away', () => {
    const table = tableOf(
      `score,word,x,y\n${rowsOf((i) => [label(i) === 'yes' ? 50 + (noise(i, 1) % 40) : noise(i, 2) % 52, label(i) === 'yes' && i % 40 !== 0 ? 'good' : 'bad', noise(i, 4), label(i)])}\n`,
    );
    expect(found(table)).toEqual([
      ['predictive', 'score'],
      ['predictive', 'word'],
    ]);
  });

  it('does not call a good feature a leak: no column of iris or diabetes is one', () => {
    const kinds = (table: Table, task: 'multiclass' | 'regression') =>
      watchLeaks(table, roles({ target: 'target', task, positive: null })).map((leak) => leak.kind);
    expect(kinds(iris(), 'multiclass')).not.toContain('predictive');
    expect(kinds(diabetes(), 'regression')).toEqual([]);
  });

  it('finds a column that gives a number away, and columns that sum to it', () => {
    const table = tableOf(
      `spring,summer,autumn,x,y\n${rowsOf((i) => {
        const parts = [1, 2, 3].map((stream) => noise(i, stream));
        return [...parts, noise(i, 8), parts.reduce((a, b) => a + b, 0)];
      })}\n`,
    );
    const numeric = { task: 'regression', positive: null } as const;
    expect(found(table, numeric)).toEqual([['sum', 'spring, summer, autumn']]);
    const twice = tableOf(`twice,x,y\n${rowsOf((i) => [2 * noise(i, 1) + 1, noise(i, 2), noise(i, 1)])}\n`);
    expect(found(twice, numeric)).toEqual([['predictive', 'twice']]);
  });

  it('finds missing cells that go with the target', () => {
    const table = tableOf(
      `a,b,c,y\n${rowsOf((i) => [label(i) === 'yes' && i % 3 ? '' : noise(i, 1) / 8, i % 9 === 0 ? '' : noise(i, 2) / 8, noise(i, 3), label(i)])}\n`,
    );
    expect(found(table)).toEqual([['missing', 'a']]);
  });

  it('says that a category gives the answer away where all rows of a value have one class, however many values', () => {
    // Fifty makes of two or three rows, each of one origin.
    const makes = (origin: (make: number, i: number) => string) =>
      tableOf(
        `make,x,y\n${rowsOf((i) => [`m${noise(i, 8) % 50}`, noise(i, 1) + 0.5, origin(noise(i, 8) % 50, i)])}\n`,
      );
    const kinds = (table: Table) =>
      watchLeaks(table, roles()).filter(({ column, kind }) => column === 'make' && kind === 'predictive');
    expect(kinds(makes((make) => (make % 2 === 0 ? 'yes' : 'no')))).toEqual([
      expect.objectContaining({
        message: expect.stringMatching(/of its \d+ values with several rows, \d+ have one y/),
      }),
    ]);
    expect(kinds(makes((_make, i) => label(i)))).toEqual([]);
    // One value with several rows, which have one class by chance in one of 64 tables.
    const once = tableOf(
      `make,x,y\n${rowsOf((i) => [i < 7 ? 'm' : `n${i}`, noise(i, 1) + 0.5, i < 7 || i % 2 ? 'yes' : 'no'])}\n`,
    );
    expect(kinds(once)).toEqual([]);
    // A rare class leaves nearly every value with one class by chance.
    expect(kinds(makes((_make, i) => (i % 40 === 0 ? 'yes' : 'no')))).toEqual([]);
  });

  it('says of rows that are only partly in order how far they are', () => {
    const inRuns = tableOf(
      `x,y\n${rowsOf((i) => [noise(i, 1) + 0.5, Math.floor(i / 6) % 2 ? 'yes' : 'no'])}\n`,
    );
    const [order] = watchLeaks(inRuns, roles()).filter(({ kind }) => kind === 'order');
    expect(order?.message).toBe(
      'Rows beside one another often have the same y (20 runs of equal values, where shuffled rows have about 61): their position says something of it.',
    );
  });

  it('finds rows that are sorted by the target', () => {
    const table = tableOf(`x,z,y\n${rowsOf((i) => [noise(i, 1) / 8, noise(i, 3), i < 70 ? 'no' : 'yes'])}\n`);
    expect(found(table)).toEqual([['order', null]]);
    expect(found(iris(), { target: 'target', task: 'multiclass', positive: null })).toContainEqual([
      'order',
      null,
    ]);
    const rising = tableOf(`x,y\n${rowsOf((i) => [noise(i, 1), i + (noise(i, 2) % 5)])}\n`);
    expect(found(rising, { task: 'regression', positive: null })).toEqual([['order', null]]);
  });

  it('finds rows that repeat others, and rows that contradict them', () => {
    const table = tableOf(
      `a,b,y\n${rowsOf((i) => (i > 115 ? [1, 1, i % 2 ? 'yes' : 'no'] : [noise(i, 1), i / 8, label(i)]))}\n`,
    );
    expect(watchLeaks(table, roles()).map(({ kind, measure }) => [kind, measure])).toEqual([
      ['duplicates', 2],
      ['contradictions', 2],
    ]);
    expect(watchRepeats(table).map((leak) => leak.kind)).toEqual(['duplicates']);
  });
});
