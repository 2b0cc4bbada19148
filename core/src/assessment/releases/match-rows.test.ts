import { describe, expect, it } from '@jest/globals';
import { iris, tableOf } from '../../../test/files.js';
import { seededRandom, shuffle, type Random } from '../../foundation/random/random.js';
import { selectRows, type Table } from '../../data/table/table.js';
import { matchRows } from './match-rows.js';

const none = { identifier: null, targets: [] };
const rowsOf = (n: number, random: Random, row: (random: Random, i: number) => string): Table =>
  tableOf(`id,a,b,c\n${Array.from({ length: n }, (_, i) => row(random, i)).join('\n')}\n`);
/** Rows of three columns of numbers with two decimals. */
const measured = (n: number, seed: number) =>
  rowsOf(
    n,
    seededRandom(seed),
    (random, i) => `${i + 1},${[0, 0, 0].map(() => (random.unit() * 50).toFixed(2)).join()}`,
  );

describe('rows of two tables are the same', () => {
  it('by their identifier, in whatever order and with cells that were corrected', () => {
    const theirs = measured(200, 1);
    const order = shuffle(
      Int32Array.from({ length: 200 }, (_, i) => i),
      seededRandom(2),
    );
    const ours = selectRows(theirs, order);
    expect(matchRows(ours, theirs, { identifier: 'id', targets: [] })).toEqual({
      rows: order,
      by: 'identifier',
    });
    const corrected = {
      ...ours,
      columns: ours.columns.map((column) =>
        column.name === 'a' && column.kind === 'number'
          ? { ...column, values: column.values.map((value) => value + 1) }
          : column,
      ),
    };
    expect(matchRows(corrected, theirs, { identifier: 'id', targets: [] }).by).toBe('identifier');
  });

  it('by their content where they are numbered otherwise, and columns were added', () => {
    const theirs = iris();
    const order = shuffle(
      Int32Array.from({ length: 150 }, (_, i) => i),
      seededRandom(4),
    );
    const ours = selectRows(theirs, order);
    const { rows, by } = matchRows(ours, theirs, { identifier: null, targets: ['target'] });
    expect(by).toBe('content');
    // Two rows of iris are alike in all four measures, and match nobody.
    expect(rows.filter((row) => row >= 0).length).toBeGreaterThanOrEqual(147);
    rows.forEach((row, i) => {
      if (row >= 0) expect(row).toBe(order[i]);
    });
  });
});

describe('rows of two tables are others', () => {
  it('though both number them from 1', () => {
    expect(matchRows(measured(300, 1), measured(300, 2), { identifier: 'id', targets: [] }).by).toBeNull();
  });

  it('in tables that share one column alone', () => {
    const one = tableOf('x,p\n1,a\n2,b\n3,c\n');
    const two = tableOf('x,q\n1,d\n2,e\n3,f\n');
    expect(matchRows(one, two, none).by).toBeNull();
  });

  it('in independent tables of few values: no false alarm in 200 pairs, from 30 cells to 30,000', () => {
    let alarms = 0;
    for (let seed = 0; seed < 200; seed++) {
      const random = seededRandom(seed);
      const [x, y, z] = [3 + random.below(8), 2 + random.below(20), 5 + random.below(180)];
      const table = () =>
        rowsOf(400, random, (r, i) => `${i},${r.below(x)},${Math.floor(r.unit() ** 2 * y)},${r.below(z)}`);
      if (matchRows(table(), table(), { identifier: null, targets: ['id'] }).by !== null) alarms++;
    }
    expect(alarms).toBe(0);
  });
});

it('a third of the rows of another table is recognised among fresh ones', () => {
  const theirs = measured(300, 5);
  const fresh = measured(200, 6);
  const own = selectRows(
    theirs,
    Int32Array.from({ length: 100 }, (_, i) => 3 * i),
  );
  const ours: Table = {
    rowCount: 300,
    columns: own.columns.map((column, c) => {
      const other = fresh.columns[c];
      if (column.kind !== 'number' || other?.kind !== 'number') throw new Error('numbers');
      return { ...column, values: Float64Array.of(...column.values, ...other.values) };
    }),
  };
  const { rows, by } = matchRows(ours, theirs, { identifier: null, targets: ['id'] });
  expect(by).toBe('content');
  expect(rows.filter((row) => row >= 0)).toHaveLength(100);
});
