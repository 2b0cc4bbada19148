import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { iris, tableOf } from '../../../test/files.js';
import { at } from '../../foundation/numbers.js';
import { makeFolds, testRows } from './folds.js';
import type { FoldPlan, Folds } from './fold-splitter.js';
import { tableFor, type Row } from './rows-of-tests.js';

/** Rows of class, group and day. */
const rowsArbitrary = fc.array(
  fc.tuple(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 12 }), fc.integer({ min: 0, max: 40 })),
  { minLength: 12, maxLength: 150 },
);

const settings = fc.record({
  rows: rowsArbitrary,
  k: fc.integer({ min: 2, max: 6 }),
  seed: fc.integer({ min: 0, max: 2 ** 31 - 1 }),
});

const sizesOf = (folds: Folds, repeat = 0) =>
  Array.from({ length: folds.count }, (_, fold) => testRows(folds, repeat, fold).length);

const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);

const groupsOf = (rows: readonly Row[]) => new Set(rows.map(([, g]) => g)).size;

describe('folds', () => {
  it.each(['k-fold', 'stratified', 'grouped', 'stratified-grouped'] as const)(
    '%s: every row is tested once in each repeat, and trained on in all other folds',
    (method) => {
      fc.assert(
        fc.property(settings, ({ rows, k, seed }) => {
          fc.pre(groupsOf(rows) >= k);
          const folds = makeFolds(tableFor(rows), {
            method,
            k,
            seed,
            repeats: 2,
            stratify: 'class',
            group: 'group',
          });
          for (const repeat of [0, 1]) {
            expect(sizesOf(folds, repeat).reduce((a, b) => a + b, 0)).toBe(rows.length);
            for (let fold = 0; fold < k; fold++) {
              const tested = testRows(folds, repeat, fold);
              const trained = folds.training(repeat, fold);
              expect([...tested, ...trained].sort((a, b) => a - b)).toEqual(rows.map((_, row) => row));
            }
          }
        }),
        { numRuns: 40 },
      );
    },
  );

  it('at random: sizes differ by at most 1', () => {
    fc.assert(
      fc.property(settings, ({ rows, k, seed }) => {
        expect(spread(sizesOf(makeFolds(tableFor(rows), { method: 'k-fold', k, seed })))).toBeLessThanOrEqual(
          1,
        );
      }),
    );
  });

  it('stratified: sizes differ by at most 1, and so do the counts of each class', () => {
    fc.assert(
      fc.property(settings, ({ rows, k, seed }) => {
        const folds = makeFolds(tableFor(rows), { method: 'stratified', k, seed, stratify: 'class' });
        expect(spread(sizesOf(folds))).toBeLessThanOrEqual(1);
        for (let c = 0; c <= 3; c++) {
          const counts = Array.from(
            { length: k },
            (_, fold) => testRows(folds, 0, fold).filter((row) => rows[row]?.[0] === c).length,
          );
          expect(spread(counts)).toBeLessThanOrEqual(1);
        }
      }),
    );
  });

  it.each(['grouped', 'stratified-grouped'] as const)(
    '%s: no group in two folds, no fold empty, and sizes differ by at most the largest group',
    (method) => {
      fc.assert(
        fc.property(settings, ({ rows, k, seed }) => {
          fc.pre(groupsOf(rows) >= k);
          const folds = makeFolds(tableFor(rows), { method, k, seed, stratify: 'class', group: 'group' });
          const foldOf = new Map<number, number>();
          rows.forEach(([, g], row) => {
            const fold = at(folds.tests, 0)[row] ?? -1;
            expect(foldOf.get(g) ?? fold).toBe(fold);
            foldOf.set(g, fold);
          });
          const largest = Math.max(
            ...[...foldOf.keys()].map((g) => rows.filter(([, other]) => other === g).length),
          );
          const sizes = sizesOf(folds);
          expect(Math.min(...sizes)).toBeGreaterThan(0);
          expect(spread(sizes)).toBeLessThanOrEqual(largest);
        }),
      );
    },
  );

  it('stratified and grouped: shares of a class lie nearer than by groups alone, over many tables', () => {
    let nearer = 0;
    let farther = 0;
    fc.assert(
      fc.property(settings, ({ rows, seed }) => {
        fc.pre(groupsOf(rows) >= 8);
        const table = tableFor(rows);
        const off = (method: 'grouped' | 'stratified-grouped') => {
          const folds = makeFolds(table, { method, k: 3, seed, stratify: 'class', group: 'group' });
          return [0, 1, 2, 3].reduce((sum, c) => {
            const due = rows.filter(([code]) => code === c).length / 3;
            return [0, 1, 2].reduce(
              (s, fold) =>
                s + (testRows(folds, 0, fold).filter((row) => rows[row]?.[0] === c).length - due) ** 2,
              sum,
            );
          }, 0);
        };
        if (off('stratified-grouped') < off('grouped')) nearer++;
        if (off('stratified-grouped') > off('grouped')) farther++;
      }),
      { seed: 1, numRuns: 60 },
    );
    expect(nearer).toBeGreaterThan(2 * farther);
  });

  it.each([
    ['expanding', undefined],
    ['sliding', 12],
  ] as const)(
    '%s: all training lies before the test, by the gap, and times are never cut',
    (method, window) => {
      fc.assert(
        fc.property(settings, fc.integer({ min: 0, max: 3 }), ({ rows, k, seed }, gap) => {
          const days = [...new Set(rows.map(([, , d]) => d))];
          fc.pre(days.length > 4 * k);
          const plan: FoldPlan = {
            method,
            k,
            seed,
            time: 'day',
            gap,
            ...(window === undefined ? {} : { window }),
          };
          let folds: Folds;
          try {
            folds = makeFolds(tableFor(rows), plan);
          } catch (error) {
            expect(String(error)).toContain('nothing to train on');
            return;
          }
          const day = (row: number) => at(rows, row)[2];
          const foldOfDay = new Map<number, number>();
          rows.forEach(([, , d], row) => {
            const fold = at(folds.tests, 0)[row] ?? -2;
            expect(foldOfDay.get(d) ?? fold).toBe(fold);
            foldOfDay.set(d, fold);
          });
          for (let fold = 0; fold < k; fold++) {
            const first = Math.min(...Array.from(testRows(folds, 0, fold), day));
            const trained = Array.from(folds.training(0, fold), day);
            expect(first).toBeLessThan(Infinity);
            expect(trained.length).toBeGreaterThan(0);
            for (const d of trained) {
              expect(d).toBeLessThan(first);
              expect(first - d).toBeGreaterThan(gap);
              if (window !== undefined) expect(first - d).toBeLessThanOrEqual(gap + window);
            }
          }
        }),
        { numRuns: 60 },
      );
    },
  );

  it('the bootstrap draws as many rows as there are and tests exactly those never drawn', () => {
    const folds = makeFolds(iris(), { method: 'bootstrap', seed: 5, repeats: 30 });
    let out = 0;
    for (let repeat = 0; repeat < 30; repeat++) {
      const drawn = folds.training(repeat, 0);
      const tested = testRows(folds, repeat, 0);
      expect(drawn).toHaveLength(150);
      expect(new Set([...drawn, ...tested]).size).toBe(150);
      expect(tested.some((row) => drawn.includes(row))).toBe(false);
      out += tested.length / 150 / 30;
    }
    // (1 − 1/n)^n of the rows are out of the bag on average: 0.3666 for n = 150.
    expect(Math.abs(out - (1 - 1 / 150) ** 150)).toBeLessThan(0.02);
  });

  it('of single rows and of single groups test each of them alone', () => {
    const table = tableOf('g,x\nb,1\na,2\nb,3\nc,4\n');
    const rows = makeFolds(table, { method: 'leave-one-out', seed: 0 });
    expect([rows.count, Array.from(at(rows.tests, 0))]).toEqual([4, [0, 1, 2, 3]]);
    const groups = makeFolds(table, { method: 'leave-one-group-out', seed: 0, group: 'g' });
    expect([groups.count, Array.from(at(groups.tests, 0))]).toEqual([3, [1, 0, 1, 2]]);
    expect(Array.from(groups.training(0, 1))).toEqual([1, 3]);
    const two = tableOf('g,x\nb,1\na,2\nb,3\n');
    expect(makeFolds(two, { method: 'leave-one-group-out', seed: 0, group: 'g' }).count).toBe(2);
    const one = tableOf('g,x\nb,1\nb,2\n');
    expect(() => makeFolds(one, { method: 'leave-one-group-out', seed: 0, group: 'g' })).toThrow(
      expect.objectContaining({ code: 'too-few-groups' }),
    );
  });

  it('over time leave rows out that may not be used', () => {
    const table = tableFor(Array.from({ length: 30 }, (_, i) => [0, 0, i] as const));
    const usable = Uint8Array.from({ length: 30 }, (_, row) => Number(row % 3 !== 0));
    const folds = makeFolds(
      table,
      { method: 'expanding', time: 'day', k: 3, gap: 0, seed: 1, repeats: 1 },
      usable,
    );
    for (let fold = 0; fold < folds.count; fold++)
      expect(Array.from(testRows(folds, 0, fold)).filter((row) => row % 3 === 0)).toEqual([]);
  });

  it('more repeats leave the first ones as they are, and rows left out stay out', () => {
    const plan = { method: 'k-fold', k: 5, seed: 9 } as const;
    const one = makeFolds(iris(), plan);
    const three = makeFolds(iris(), { ...plan, repeats: 3 });
    expect(three.tests[0]).toEqual(one.tests[0]);
    expect(three.tests[1]).not.toEqual(one.tests[0]);
    const usable = new Uint8Array(150).fill(1, 10);
    const some = makeFolds(iris(), plan, usable);
    expect(at(some.tests, 0).findIndex((fold) => fold >= 0)).toBe(10);
    expect(some.training(0, 0).every((row) => row >= 10)).toBe(true);
  });
});
