import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SieveError } from '../errors.js';
import { FOLD_METHODS } from '../folds/fold-methods.js';
import { makeFolds, testRows, type FoldPlan } from '../folds/folds.js';
import { qualityChecks } from '../quality/checks.js';
import { splitQuality } from '../quality/quality.js';
import type { Column, Table } from '../table/table.js';
import { PARTITION_METHODS } from './partition-methods.js';
import { partition, type PartitionPlan } from './partition.js';
import { parseParts, type PartSize } from './parts.js';

const NAMES = ['n', 'c', 't', 'x'] as const;

/** Tables with every kind of column, missing cells in all of them, from one row on. */
const tables = fc
  .array(
    fc.record({
      n: fc.constantFrom(NaN, 0, 1, 2.5, -3, 1e300),
      c: fc.integer({ min: -1, max: 3 }),
      t: fc.constantFrom(NaN, 0, 86_400_000, 172_800_000, 1e12),
      x: fc.integer({ min: -1, max: 1 }),
    }),
    { minLength: 1, maxLength: 40 },
  )
  .map((rows): Table => {
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

const column = fc.constantFrom(...NAMES, 'nowhere');
const number = fc.constantFrom(-1, 0, 0.5, 1, 2, 3, 7, 1e9, NaN, Infinity);
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
const optional = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined });
/** Without the settings that were not drawn. */
const given = <T extends object>(plan: T): T =>
  Object.fromEntries(Object.entries(plan).filter(([, value]) => value !== undefined)) as T;

const partitionPlans = fc.record({
  method: fc.constantFrom(...(Object.keys(PARTITION_METHODS) as (keyof typeof PARTITION_METHODS)[])),
  parts: sizes,
  seed: fc.oneof({ weight: 9, arbitrary: fc.integer({ min: 0, max: 9 }) }, number),
  stratify: optional(column),
  group: optional(column),
  time: optional(column),
  cutOff: optional(fc.constantFrom('1', '1970-01-02', 'May')),
  gap: optional(number),
  every: optional(number),
  column: optional(column),
  identifier: optional(column),
  salt: optional(fc.constantFrom('', 'x')),
});
const foldPlans = fc.record({
  method: fc.constantFrom(...(Object.keys(FOLD_METHODS) as (keyof typeof FOLD_METHODS)[])),
  seed: fc.oneof({ weight: 9, arbitrary: fc.integer({ min: 0, max: 9 }) }, number),
  k: optional(number),
  repeats: optional(fc.constantFrom(1, 2, 0, 1.5)),
  stratify: optional(column),
  group: optional(column),
  time: optional(column),
  window: optional(number),
  gap: optional(number),
});

describe('any plan on any table', () => {
  it('parts the rows as it says, or is refused with a sentence', () => {
    let made = 0;
    fc.assert(
      fc.property(tables, partitionPlans, (table, drawn) => {
        const plan = given(drawn) as PartitionPlan;
        try {
          const { names, parts } = partition(table, plan);
          made++;
          expect(parts).toHaveLength(table.rowCount);
          expect(parts.every((part) => part >= -1 && part < names.length)).toBe(true);
          if (plan.method !== 'time') expect(parts.every((part) => part >= 0)).toBe(true);
          const quality = splitQuality(table, { names, parts }, { target: 'c', group: 'c', time: 't' });
          expect(quality.parts.reduce((n, part) => n + part.rows, 0)).toBe(
            parts.filter((part) => part >= 0).length,
          );
          for (const check of qualityChecks(quality, 'c', true))
            expect(check.message).not.toMatch(/NaN|undefined/);
        } catch (error) {
          if (!(error instanceof SieveError)) throw error;
          expect(error.message).toMatch(/\w.*\.$/s);
        }
      }),
      { numRuns: 3000, seed: 1 },
    );
    expect(made).toBeGreaterThan(50);
  });

  it('makes folds that test rows once a repeat and never train on what they test, or is refused with a sentence', () => {
    let made = 0;
    fc.assert(
      fc.property(tables, foldPlans, (table, drawn) => {
        try {
          const folds = makeFolds(table, given(drawn) as FoldPlan);
          made++;
          folds.tests.forEach((tests, repeat) => {
            expect(tests.every((fold) => fold >= -1 && fold < folds.count)).toBe(true);
            for (let fold = 0; fold < folds.count; fold++) {
              const tested = new Set(testRows(folds, repeat, fold));
              expect(folds.training(repeat, fold).some((row) => tested.has(row))).toBe(false);
            }
          });
        } catch (error) {
          if (!(error instanceof SieveError)) throw error;
          expect(error.message).toMatch(/\w.*\.$/s);
        }
      }),
      { numRuns: 3000, seed: 1 },
    );
    expect(made).toBeGreaterThan(50);
  });
});
