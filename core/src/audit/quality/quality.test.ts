import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { diabetes, iris, tableOf } from '../../../test/files.js';
import { at, indices } from '../../foundation/numbers.js';
import { partition } from '../../splitting/splits/partition.js';
import { parseParts } from '../../splitting/parts/parts.js';
import { columnNamed } from '../../data/table/table.js';
import { qualityChecks } from './checks.js';
import { crossingGroups, findTwins } from './crossing.js';
import { driftOf, kolmogorovSmirnov } from './drift.js';
import { splitQuality } from './quality.js';
import { adversarialValidation } from './adversarial-validation.js';

const cut = (n: number, place: number) =>
  [indices(n).subarray(0, place), indices(n).subarray(place)] as const;

describe('how features differ between parts', () => {
  it.each([
    ['age', 0.09257980630294, 0.103896713615023],
    ['bmi', 0.1299748946372241, 0.072488262910818],
    ['target', 0.1243836118127713, 0.102582159624413],
  ])(
    'diabetes, %s: standardised difference (pandas) and Kolmogorov–Smirnov distance (scipy 1.10.1)',
    (name, smd, ks) => {
      const drift = driftOf(columnNamed(diabetes(), name), ...cut(442, 300));
      expect(drift?.value).toBeCloseTo(smd, 9);
      expect(drift?.distance).toBeCloseTo(ks, 12);
    },
  );

  it('the distance is the largest difference of the distribution functions at any value', () => {
    const values = fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(values, values, (a, b) => {
        const share = (list: readonly number[], x: number) => list.filter((v) => v <= x).length / list.length;
        const expected = Math.max(
          ...Array.from({ length: 10 }, (_, x) => Math.abs(share(a, x) - share(b, x))),
        );
        const sorted = (list: readonly number[]) => Float64Array.from(list).sort();
        expect(kolmogorovSmirnov(sorted(a), sorted(b))).toBeCloseTo(expected, 12);
      }),
    );
  });

  it('categories differ by half the sum of the differences of their shares', () => {
    const column = columnNamed(tableOf('c\na\na\nb\nb\nb\nc\n'), 'c');
    expect(driftOf(column, Int32Array.of(0, 1, 2), Int32Array.of(3, 4, 5))?.value).toBeCloseTo(2 / 3, 12);
  });
});

describe('what crosses', () => {
  it('groups with rows on both sides, and rows with the features of one on the other side', () => {
    expect([...crossingGroups(Int32Array.of(0, 0, 1, 1, 2, -1), Int8Array.of(0, 1, 0, 0, -1, 1))]).toEqual([
      0,
    ]);
    const x = columnNamed(tableOf('x\n1\n1\n2\n2\n1\n'), 'x');
    expect(findTwins([x], Int8Array.of(0, 1, 0, 0, -1), Int32Array.of(0, 1, 0, 1, 0))).toEqual({
      crossing: 1,
      examples: [[0, 1]],
      contradicting: 2,
    });
  });
});

describe('separating parts', () => {
  const features = iris().columns.filter((column) => column.name !== 'target');

  it('is easy where they differ and impossible where rows were shuffled', () => {
    expect(adversarialValidation(features, ...cut(150, 50), 0)).toBeGreaterThan(0.97);
    const even = indices(150).filter((row) => row % 2 === 0);
    const odd = indices(150).filter((row) => row % 2 === 1);
    expect(adversarialValidation(features, even, odd, 0)).toBeLessThan(0.62);
  });

  it('is not tried on too few rows or without features', () => {
    expect(adversarialValidation(features, Int32Array.of(1, 2), Int32Array.of(3, 4), 0)).toBeNull();
    expect(adversarialValidation([], ...cut(150, 50), 0)).toBeNull();
  });
});

describe('the quality of a split', () => {
  const table = tableOf(
    `id,hive,day,x,y\n${Array.from({ length: 80 }, (_, i) => `r${i},h${i % 8},${i},${(i * 13) % 7},${i % 4 === 0 ? 'lost' : 'alive'}`).join('\n')}\n`,
  );
  const split = (method: 'random' | 'grouped' | 'time') =>
    partition(table, {
      method,
      parts: parseParts('train=0.75,heldout=0.25'),
      seed: 3,
      group: 'hive',
      time: 'day',
    });
  const judge = (method: 'random' | 'grouped' | 'time', options: object = {}) =>
    splitQuality(table, split(method), { target: 'y', identifier: 'id', ...options });

  it('counts rows and shares, and names the class that lies farthest off', () => {
    const quality = judge('random');
    expect(quality.parts.map(({ name, rows, share }) => [name, rows, share])).toEqual([
      ['train', 60, 0.75],
      ['heldout', 20, 0.25],
    ]);
    const lost = quality.parts.map((part) => at(part.classes, 1).share);
    const widest = Math.max(...lost.map((share) => Math.abs(share - 0.25)));
    expect(Math.abs(quality.deviation?.difference ?? 0)).toBeCloseTo(widest, 12);
  });

  it('finds groups that cross and times that overlap, and neither where there are none', () => {
    expect(judge('random', { group: 'hive' }).groups?.crossing).toBeGreaterThan(0);
    expect(judge('grouped', { group: 'hive' }).groups?.crossing).toBe(0);
    expect(judge('random', { time: 'day' }).time?.overlapping).toBeGreaterThan(0);
    expect(judge('time', { time: 'day' }).time?.overlapping).toBe(0);
  });

  it('becomes checks that fail where a promise is broken', () => {
    const outcomes = (method: 'random' | 'grouped' | 'time') =>
      Object.fromEntries(
        qualityChecks(judge(method, { group: 'hive', time: 'day' }), 'y', false).map((c) => [
          c.id,
          c.outcome,
        ]),
      );
    expect(outcomes('random')).toMatchObject({ groups: 'fails', time: 'fails' });
    expect(outcomes('grouped')).toMatchObject({ groups: 'holds' });
    expect(outcomes('time')).toMatchObject({ time: 'holds' });
  });

  it('compares with redrawn splits of the same plan', () => {
    const redraw = (seed: number) =>
      partition(table, { method: 'random', parts: parseParts('train=0.75,heldout=0.25'), seed }).parts;
    const { apart } = judge('random', { redraw });
    expect(apart?.redrawn?.draws).toBe(10);
    expect(apart?.redrawn?.low).toBeLessThan(apart?.redrawn?.high ?? 0);
  });
});

describe('differences at the edge', () => {
  const [training, heldout] = [Int32Array.of(0, 1, 2), Int32Array.of(3, 4, 5)];
  const column = (cells: readonly string[]) =>
    columnNamed(tableOf(`x,y\n${cells.map((cell, i) => `${cell},${i}`).join('\n')}\n`), 'x');

  it('of a column that is constant in each part, with different values, are the largest there are', () => {
    expect(driftOf(column(['1', '1', '1', '2', '2', '2']), training, heldout)?.value).toBe(1000);
    expect(driftOf(column(['1', '1', '1', '1', '1', '1']), training, heldout)).toBeNull();
  });

  it('count a category that is missing in a part as a value of its own', () => {
    expect(driftOf(column(['a', 'a', 'b', '', '', '']), training, heldout)?.value).toBe(1);
  });

  it('are called so only where redraws of the plan hardly reach them', () => {
    const rows = Array.from({ length: 60 }, (_, i) => `${i % 7},${i < 48 ? 0 : 5}`);
    const table = tableOf(`x,late\n${rows.join('\n')}\n`);
    const parts = Int8Array.from({ length: 60 }, (_, i) => (i < 48 ? 0 : 1));
    const quality = splitQuality(table, { names: ['training', 'held out'], parts }, { apart: false });
    const drifts = qualityChecks(quality, null, false).filter(({ id }) => id === 'drift');
    expect(drifts.map(({ message }) => message)).toEqual(['late differs between training and held-out rows']);
  });

  it('of rows with the same features count what must move, whatever the order of the rows', () => {
    const count = (parts: readonly number[]) =>
      findTwins([column(parts.map(() => '7'))], Int8Array.from(parts), null).crossing;
    expect([count([0, 1, 1, 1]), count([1, 1, 1, 0]), count([1, 0, 1, 1])]).toEqual([1, 1, 1]);
  });
});
