import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { tableOf } from '../../../test/files.js';
import { draw } from '../../../test/plans.js';
import { indices } from '../../foundation/numbers.js';
import { firstAlike } from '../../data/table/same-rows.js';
import type { Table } from '../../data/table/table.js';
import type { FoldPlan } from '../folds/fold-splitter.js';
import { makeFolds, testRows } from '../folds/folds.js';
import { FOLD_METHODS } from '../folds/registry.js';
import { partition } from '../splits/partition.js';
import { SPLIT_METHODS } from '../splits/registry.js';
import { splitRows } from '../splits/split.js';
import type { PartitionPlan } from '../splits/splitter.js';
import { distinctRows, type RepeatedRows } from './repeated-rows.js';
import { usableRows } from './usable.js';

/** Coarse tables, of which many rows repeat another. */
const coarse: fc.Arbitrary<Table> = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 6 }), fc.constantFrom('a', 'b', 'c')), {
    minLength: 24,
    maxLength: 60,
  })
  .map((rows) => tableOf(`day,kind\n${rows.map(([day, kind]) => `${day},${kind}`).join('\n')}\n`));

const SETTINGS = {
  ...{ stratify: 'kind', group: 'kind', time: 'day', cutOff: '4', gap: 0, every: 3, column: 'kind' },
  ...{ identifier: 'day', salt: 'x', k: 2, window: 2 },
};
const splitPlan = (method: string, repeatedRows?: RepeatedRows): PartitionPlan => ({
  ...SETTINGS,
  ...{ method, seed: 5 },
  ...(repeatedRows ? { repeatedRows } : {}),
  parts:
    method === 'column'
      ? ['a', 'b', 'c'].map((name) => ({ name, share: 1 / 3 }))
      : [
          { name: 'train', share: 0.5 },
          { name: 'heldout', share: 0.5 },
        ],
});
/** What is asked for, or null where the table cannot be split that way. */
function tried<T>(make: () => T): T | null {
  try {
    return make();
  } catch {
    return null;
  }
}

describe('repeated rows', () => {
  it.each(SPLIT_METHODS)(
    '$name: are kept, go with the first, or are dropped, as the plan says',
    ({ name }) => {
      let made = 0;
      fc.assert(
        fc.property(coarse, (table) => {
          const first = firstAlike(table.columns, table.rowCount);
          const parts = (how: RepeatedRows) => tried(() => partition(table, splitPlan(name, how)).parts);
          expect(parts('keep')).toEqual(tried(() => partition(table, splitPlan(name)).parts));
          const [together, dropped] = [parts('together'), parts('drop')];
          if (!together || !dropped) return;
          made++;
          expect([...together]).toEqual(Array.from(first, (one) => dropped[one] ?? -1));
          expect(dropped.every((part, row) => first[row] === row || part === -1)).toBe(true);
        }),
        { numRuns: 60, seed: 1 },
      );
      expect(made).toBeGreaterThan(20);
    },
  );

  it.each(FOLD_METHODS)('$name: the same in folds', ({ name }) => {
    let made = 0;
    fc.assert(
      fc.property(coarse, (table) => {
        const first = firstAlike(table.columns, table.rowCount);
        const folds = (repeatedRows?: RepeatedRows) =>
          tried(() =>
            makeFolds(table, {
              ...SETTINGS,
              ...{ method: name, seed: 5 },
              ...(repeatedRows ? { repeatedRows } : {}),
            } satisfies FoldPlan),
          );
        expect(folds('keep')?.tests).toEqual(folds()?.tests);
        const [together, dropped] = [folds('together'), folds('drop')];
        if (!together || !dropped) return;
        made++;
        const distinct = new Set(first);
        expect(together.tests).toEqual(dropped.tests.map((test) => first.map((one) => test[one] ?? -1)));
        for (let fold = 0; fold < together.count; fold++) {
          const trained = together.training(0, fold);
          expect([...trained]).toEqual([...trained].sort((a, b) => a - b));
          // Each row as often as the first of its kind.
          const times = (rows: Int32Array, row: number) => rows.filter((one) => one === row).length;
          for (const row of indices(table.rowCount)) {
            const of = dropped.training(0, fold);
            expect(times(trained, row)).toBe(times(of, first[row] ?? -1));
            if (!distinct.has(row)) expect(times(of, row)).toBe(0);
          }
          const tested = new Set(testRows(together, 0, fold));
          expect(trained.some((row) => tested.has(row))).toBe(false);
        }
      }),
      { numRuns: 30, seed: 1 },
    );
    expect(made).toBeGreaterThan(10);
  });

  it('are counted where they are dropped, and named where an identifier stands twice', () => {
    const table = tableOf('id,x,y\na,1,p\nb,2,\na,1,p\nc,3,q\n');
    const roles = { target: 'y', identifier: 'id' };
    const { usable, unlabelled, repeated } = usableRows(table, roles, 'drop');
    expect([[...usable], unlabelled, repeated]).toEqual([[1, 0, 0, 1], 1, 1]);
    expect(() => usableRows(table, roles)).toThrow(
      'id a is in rows 1 and 3, which are the same in every column. Drop repeated rows, or choose another identifier.',
    );
    const kept = usableRows(table, { ...roles, identifier: null });
    expect([[...kept.usable], kept.repeated]).toEqual([[1, 0, 1, 1], 0]);
  });

  it('are held out with a row of the reserve, where they stay together', () => {
    const table = tableOf(
      `x,y\n${Array.from({ length: 40 }, (_, i) => `${i % 8},${i % 2 === 0 ? 'p' : 'q'}`).join('\n')}\n`,
    );
    const reserve = Uint8Array.from({ length: 40 }, (_, row) => Number(row === 17));
    const { parts } = splitRows(
      table,
      {
        kind: 'reserve',
        values: { validation: 0, stratify: '', group: '', seed: 1, repeatedRows: 'together' },
      },
      undefined,
      reserve,
    );
    expect(indices(40).filter((row) => parts[row] === 2)).toEqual(Int32Array.of(1, 9, 17, 25, 33));
  });

  it('a sentence without the setting keeps them', () => {
    const table = tableOf(`x,y\n${'1,p\n2,q\n3,p\n4,q\n5,p\n'.repeat(5)}`);
    const plan = draw();
    const said = (repeatedRows: string) =>
      splitRows(table, { ...plan, values: { ...plan.values, repeatedRows } }).parts;
    expect(splitRows(table, plan).parts).toEqual(said('keep'));
    expect(said('drop').filter((part) => part >= 0)).toHaveLength(5);
    expect(() => said('twice')).toThrow('what becomes of repeated rows is one of keep, together, drop.');
    expect([...distinctRows(table).usable].filter((one) => one === 1)).toHaveLength(5);
  });
});
