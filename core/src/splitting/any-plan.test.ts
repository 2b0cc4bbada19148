import { SPLIT_SETTINGS } from './splits/settings.js';
import { FOLD_SETTINGS } from './folds/settings.js';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SieveError } from '../foundation/errors.js';
import { indices } from '../foundation/numbers.js';
import { FOLD_METHODS } from './folds/registry.js';
import { makeFolds, testRows } from './folds/folds.js';
import type { FoldPlan } from './folds/fold-splitter.js';
import { qualityChecks } from '../audit/quality/checks.js';
import { splitQuality } from '../audit/quality/quality.js';
import type { Column, Table } from '../data/table/table.js';
import { SPLIT_METHODS } from './splits/registry.js';
import { partition } from './splits/partition.js';
import type { PartitionPlan } from './splits/splitter.js';
import { parseParts, type PartSize } from './parts/parts.js';

interface Row {
  readonly n: number;
  readonly c: number;
  readonly t: number;
  readonly x: number;
}
const rowsOf = (row: fc.Arbitrary<Row>) => fc.array(row, { minLength: 1, maxLength: 40 });
const complete = rowsOf(
  fc.record({
    n: fc.constantFrom(0, 1, 2.5, -3, 7, 11),
    c: fc.integer({ min: 2, max: 3 }),
    t: fc.constantFrom(0, 86_400_000, 172_800_000, 1e12),
    x: fc.integer({ min: 0, max: 1 }),
  }),
);
const withGaps = rowsOf(
  fc.record({
    n: fc.constantFrom(NaN, 0, 1, 2.5, -3, 1e300),
    c: fc.integer({ min: -1, max: 3 }),
    t: fc.constantFrom(NaN, 0, 86_400_000, 172_800_000, 1e12),
    x: fc.integer({ min: -1, max: 1 }),
  }),
);

/** Tables with every kind of column, from one row on, some of them with missing cells in all of them. */
const tables = fc.oneof(complete, withGaps).map((rows): Table => {
  const columns: Column[] = [
    { kind: 'number', name: 'n', values: Float64Array.from(rows, (row) => row.n) },
    {
      kind: 'category',
      name: 'c',
      levels: ['a', 'b', 'heldout', 'train'],
      codes: Int32Array.from(rows, (row) => row.c),
    },
    {
      kind: 'time',
      name: 't',
      values: Float64Array.from(rows, (row) => row.t),
      format: { separator: null, seconds: false, zulu: false },
    },
    { kind: 'text', name: 'x', levels: ['one', 'two'], codes: Int32Array.from(rows, (row) => row.x) },
  ];
  return { rowCount: rows.length, columns };
});

const wildSizes: fc.Arbitrary<PartSize[]> = fc.array(
  fc.oneof(
    fc.record({
      name: fc.constantFrom('train', 'heldout', 'b', ''),
      share: fc.constantFrom(0, 0.2, 0.5, 0.8, 1, -1, NaN),
    }),
    fc.record({ name: fc.constantFrom('train', 'heldout'), rows: fc.constantFrom(0, 1, 5, 100, 2.5) }),
    fc.record({ name: fc.constantFrom('train', 'b'), rest: fc.constant(true as const) }),
  ),
  { maxLength: 4 },
);
const sizes: fc.Arbitrary<PartSize[]> = fc.oneof(
  fc
    .constantFrom('train=0.8,heldout=0.2', 'train=rest,heldout=3', 'a=0.5,b=0.25,heldout=0.25')
    .map(parseParts),
  wildSizes,
);
const column = fc.constantFrom('n', 'c', 't', 'x', 'nowhere');
const number = fc.constantFrom(-1, 0, 0.5, 1, 2, 3, 7, 1e9, NaN, Infinity);
/** Values that a setting may well have, and any others. */
const SETTINGS: Readonly<Record<string, [fc.Arbitrary<unknown>, fc.Arbitrary<unknown>]>> = {
  stratify: [fc.constantFrom('c', 'n', 'x'), column],
  group: [fc.constantFrom('c', 'n', 't', 'x'), column],
  time: [fc.constantFrom('t', 'n'), column],
  cutOff: [fc.constant('1'), fc.constantFrom('1', '1970-01-02', 'May')],
  gap: [fc.constantFrom(0, 1), number],
  every: [fc.constantFrom(2, 3), number],
  column: [fc.constant('c'), column],
  identifier: [fc.constantFrom('n', 'c'), column],
  salt: [fc.constant('x'), fc.constantFrom('', 'x')],
  k: [fc.constantFrom(2, 3), number],
  repeats: [fc.constantFrom(1, 2), fc.constantFrom(0, 1.5)],
  window: [fc.constantFrom(1, 7, 1e9), number],
};
const seeds = fc.oneof({ weight: 9, arbitrary: fc.integer({ min: 0, max: 9 }) }, number);

/** Plans of a method: most have what it needs, some lack it, and any other setting may be there too. */
function plansOf(
  method: { readonly name: string; readonly needs: readonly string[] },
  settings: object,
): fc.Arbitrary<Record<string, unknown>> {
  const drawn = Object.keys(settings).map((key): [string, fc.Arbitrary<unknown>] => {
    const [likely, any] = SETTINGS[key] ?? [fc.constant(undefined), fc.constant(undefined)];
    const isNeeded = method.needs.includes(key);
    return [
      key,
      fc.oneof(
        { weight: isNeeded ? 8 : 1, arbitrary: likely },
        { weight: 1, arbitrary: any },
        { weight: isNeeded ? 1 : 8, arbitrary: fc.constant(undefined) },
      ),
    ];
  });
  return fc.record({ ...Object.fromEntries(drawn), seed: seeds, parts: sizes }).map((plan) => ({
    method: method.name,
    ...Object.fromEntries(Object.entries<unknown>(plan).filter(([, value]) => value !== undefined)),
  }));
}

/** What is refused is refused with a sentence; an error of another kind is a fault. */
function refusedWithASentence(error: unknown): void {
  if (!(error instanceof SieveError)) throw error;
  expect(error.message).toMatch(/\w.*\.$/s);
}

describe('any plan on any table', () => {
  it.each(SPLIT_METHODS)('$name: splits the rows as it says, or refuses with a sentence', (method) => {
    let made = 0;
    fc.assert(
      fc.property(tables, plansOf(method, SPLIT_SETTINGS), (table, drawn) => {
        const plan = drawn as unknown as PartitionPlan;
        try {
          const { names, parts } = partition(table, plan);
          made++;
          expect(parts).toHaveLength(table.rowCount);
          expect(parts.every((part) => part >= -1 && part < names.length)).toBe(true);
          const rows = indices(table.rowCount);
          for (const { text, holds } of method.invariants)
            expect([text, holds({ table, plan, rows, parts })]).toEqual([text, true]);
          const quality = splitQuality(table, { names, parts }, { target: 'c', group: 'c', time: 't' });
          expect(quality.parts.reduce((n, part) => n + part.rows, 0)).toBe(
            parts.filter((part) => part >= 0).length,
          );
          for (const check of qualityChecks(quality, 'c', true))
            expect(check.message).not.toMatch(/NaN|undefined/);
        } catch (error) {
          refusedWithASentence(error);
        }
      }),
      { numRuns: 500, seed: 1 },
    );
    expect(made).toBeGreaterThan(30);
  });

  it.each(FOLD_METHODS)('$name: makes folds as it says, or refuses with a sentence', (method) => {
    let made = 0;
    fc.assert(
      fc.property(tables, plansOf(method, FOLD_SETTINGS), (table, drawn) => {
        const plan = drawn as unknown as FoldPlan;
        try {
          const folds = makeFolds(table, plan);
          made++;
          const request = { table, plan, rows: indices(table.rowCount), repeats: plan.repeats ?? 1 };
          for (const { text, holds } of method.invariants)
            expect([text, holds(request, folds)]).toEqual([text, true]);
          folds.tests.forEach((tests, repeat) => {
            expect(tests.every((fold) => fold >= -1 && fold < folds.count)).toBe(true);
            for (let fold = 0; fold < folds.count; fold++) {
              const tested = new Set(testRows(folds, repeat, fold));
              expect(folds.training(repeat, fold).some((row) => tested.has(row))).toBe(false);
            }
          });
        } catch (error) {
          refusedWithASentence(error);
        }
      }),
      { numRuns: 500, seed: 1 },
    );
    expect(made).toBeGreaterThan(30);
  });
});
