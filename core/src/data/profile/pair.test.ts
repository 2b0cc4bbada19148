import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { iris, tableOf, testFile } from '../../../test/files.js';
import { IRIS_ROLES } from '../../../test/plans.js';
import type { Table } from '../table/table.js';
import { barsByTarget } from './bars-by-target.js';
import { correlations, orderByLikeness } from './correlations.js';
import { pairOf, type Pair } from './pair.js';
import { profileTable } from './profile.js';

/** Computed by numpy and pandas: test/reference/pair.py. */
const reference = JSON.parse(new TextDecoder().decode(testFile('reference/pair.json'))) as {
  line: { slope: number; intercept: number; r2: number };
  boxes: Record<string, number | string>[];
  cross: { x: string[]; y: string[]; counts: number[][] };
  by_bar: { figures: (number | null)[] };
};

function shown<K extends Pair['shown']['kind']>(pair: Pair, kind: K): Extract<Pair['shown'], { kind: K }> {
  const { shown: found } = pair;
  if (found.kind !== kind) throw new Error(`${found.kind} is not ${kind}`);
  return found as Extract<Pair['shown'], { kind: K }>;
}
const numbers = (n: number, value: (i: number) => number): Table => ({
  rowCount: n,
  columns: [
    { kind: 'number', name: 'x', values: Float64Array.from({ length: n }, (_, i) => i) },
    { kind: 'number', name: 'y', values: Float64Array.from({ length: n }, (_, i) => value(i)) },
  ],
});

describe('a column of nought and one', () => {
  const table = tableOf(
    `lost,fed,weight\n${Array.from({ length: 12 }, (_, i) => `${i % 2},${i < 4 ? 1 : 0},${10 + i}`).join('\n')}\n`,
  );
  it('is a class beside numbers', () => {
    const { boxes, category } = shown(pairOf(table, 'weight', 'lost', null), 'boxes');
    expect([category, boxes.map(({ label, rows }) => [label, rows])]).toEqual([
      'lost',
      [
        ['0', 6],
        ['1', 6],
      ],
    ]);
  });

  it('is counted by class and class beside another, and their strength is that of classes', () => {
    const pair = pairOf(table, 'fed', 'lost', null);
    expect(shown(pair, 'cross').counts).toEqual([
      [4, 2],
      [4, 2],
    ]);
    expect(pair.association?.measure).toContain('Cramér');
  });

  it('is none where another number stands in it', () => {
    const counts = tableOf('a,b\n0,1\n1,0\n2,1\n1,1\n0,0\n');
    expect(pairOf(counts, 'a', 'b', null).shown.kind).toBe('boxes');
    expect(pairOf(counts, 'a', 'a', null).shown.kind).toBe('points');
  });
});

describe('two columns of numbers', () => {
  it('are points with their class, and the line of least squares is numpy’s', () => {
    const pair = pairOf(iris(), 'petal_length', 'petal_width', IRIS_ROLES);
    const points = shown(pair, 'points');
    expect(points.x).toHaveLength(150);
    expect(points.labels.map((_, code) => points.classes?.filter((c) => c === code).length)).toEqual([
      50, 50, 50,
    ]);
    for (const key of ['slope', 'intercept', 'r2'] as const)
      expect(points.line?.[key]).toBeCloseTo(reference.line[key], 10);
    expect(pair.association?.value).toBeCloseTo(Math.sqrt(reference.line.r2), 10);
    expect(points.density).toBeNull();
  });

  it('of many rows are a sample and a density that counts every row', () => {
    const points = shown(
      pairOf(
        numbers(20_000, (i) => i % 100),
        'x',
        'y',
        null,
      ),
      'points',
    );
    expect(points.x).toHaveLength(2000);
    expect(points.density?.counts.flat().reduce((a, b) => a + b, 0)).toBe(20_000);
    expect(points.density?.x).toEqual({ low: 0, high: 19_999 });
  });

  it('leave out rows that lack one, and have no line where one does not vary', () => {
    expect(pairOf(tableOf('x,y\n1,2\n,3\n4,\n5,6\n'), 'x', 'y', null).rows).toBe(2);
    expect(
      shown(
        pairOf(
          numbers(10, () => 3),
          'x',
          'y',
          null,
        ),
        'points',
      ).line,
    ).toBeNull();
  });
});

describe('a column of numbers by a category', () => {
  it('is boxes with pandas’ quartiles', () => {
    const { boxes, category } = shown(pairOf(iris(), 'sepal_width', 'target', IRIS_ROLES), 'boxes');
    expect(category).toBe('target');
    boxes.forEach((box, i) => {
      const expected = reference.boxes[i] ?? {};
      for (const [key, value] of Object.entries(box)) {
        if (typeof value === 'number') expect(value).toBeCloseTo(Number(expected[key]), 10);
        else expect(value).toBe(expected[key]);
      }
    });
  });

  it('says how many categories are left out of many', () => {
    const rows = Array.from({ length: 60 }, (_, i) => `${i},k${i % 30}`);
    const { boxes, more } = shown(pairOf(tableOf(`x,c\n${rows.join('\n')}\n`), 'x', 'c', null), 'boxes');
    expect([boxes.length, more]).toEqual([24, 6]);
  });
});

describe('two categories', () => {
  it('are pandas’ cross table', () => {
    const table = iris();
    const [, width] = table.columns;
    const wide = {
      kind: 'category' as const,
      name: 'wide',
      levels: ['narrow', 'wide'],
      codes: Int32Array.from(width?.kind === 'number' ? width.values : [], (w) => (w >= 3 ? 1 : 0)),
    };
    const pair = pairOf({ ...table, columns: [...table.columns, wide] }, 'wide', 'target', IRIS_ROLES);
    expect(shown(pair, 'cross')).toEqual({ kind: 'cross', more: 0, ...reference.cross });
  });
});

it('free texts are refused by their name', () => {
  const rows = Array.from({ length: 200 }, (_, i) => `${i},a long text that nobody else wrote ${i * 7919}`);
  const table = tableOf(`x,note\n${rows.join('\n')}\n`);
  expect(() => pairOf(table, 'x', 'note', null)).toThrow('note holds free texts');
});

describe('the target along a distribution', () => {
  it('is the mean of a number in each bar, as pandas has it', () => {
    const table = iris();
    const { label, bars } = barsByTarget(
      table,
      { target: 'petal_width', task: 'regression', positive: null },
      profileTable(table),
    );
    expect(label).toBeNull();
    const figures = bars.find(({ column }) => column === 'petal_length')?.figures ?? [];
    expect(figures).toHaveLength(24);
    figures.forEach((figure, bar) => {
      const expected = reference.by_bar.figures[bar] ?? null;
      if (expected === null) expect(figure).toBeNull();
      else expect(figure).toBeCloseTo(expected, 10);
    });
  });

  it('is the share of the positive class at each value', () => {
    const table = tableOf('c,x,y\na,1,yes\na,2,no\nb,3,yes\nb,4,yes\n,5,no\na,6,\n');
    const { label, bars } = barsByTarget(
      table,
      { target: 'y', task: 'binary', positive: 'yes' },
      profileTable(table),
    );
    expect(label).toBe('yes');
    expect(bars.find(({ column }) => column === 'c')?.figures).toEqual([0.5, 1]);
    expect(bars.map(({ column }) => column)).not.toContain('y');
  });
});

describe('an order by likeness', () => {
  it('names every column once and begins with the strongest pair', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 36, maxLength: 36 }),
        (flat) => {
          const values = Array.from({ length: 6 }, (_, i) =>
            Array.from({ length: 6 }, (__, j) =>
              i === j ? 1 : (flat[Math.min(i, j) * 6 + Math.max(i, j)] ?? 0),
            ),
          );
          const order = orderByLikeness({ columns: [], values });
          expect([...order].sort()).toEqual([0, 1, 2, 3, 4, 5]);
          const beside = order
            .slice(1)
            .map((column, place) => Math.abs(values[column]?.[order[place] ?? 0] ?? 0));
          const all = values.flatMap((row, i) => row.filter((_, j) => j !== i)).map(Math.abs);
          expect(Math.max(...beside)).toBe(Math.max(...all));
        },
      ),
    );
  });

  it('puts the two petal columns of iris together', () => {
    const matrix = correlations(iris());
    const names = orderByLikeness(matrix).map((i) => matrix.columns[i]);
    expect(Math.abs(names.indexOf('petal_length') - names.indexOf('petal_width'))).toBe(1);
  });

  it('takes one column, and none', () => {
    expect(orderByLikeness({ columns: ['a'], values: [[1]] })).toEqual([0]);
    expect(orderByLikeness({ columns: [], values: [] })).toEqual([]);
  });
});
