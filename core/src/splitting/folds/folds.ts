import { SieveError } from '../../foundation/errors.js';
import { at, counted, indices } from '../../foundation/numbers.js';
import { LARGEST_SEED } from '../../foundation/random/random.js';
import type { Table } from '../../data/table/table.js';
import { distinctRows, type DistinctRows } from '../parts/repeated-rows.js';
import type { FoldPlan, Folds, MadeFolds } from './fold-splitter.js';
import { FOLD_METHODS } from './registry.js';

/**
 * Makes folds by a plan.
 *
 * @param usable 1 for each row that takes part, 0 for one that is left out; all rows where omitted
 * @throws SieveError `fold-plan`, `too-few-rows`, `too-few-groups`, `too-few-times`, `no-such-column`,
 * `missing-group`, `missing-time`
 */
export function makeFolds(table: Table, plan: FoldPlan, usable?: Uint8Array): Folds {
  const fail = (field: string, message: string): never => {
    throw new SieveError('fold-plan', message, { field });
  };
  const method = FOLD_METHODS.find(({ name }) => name === plan.method);
  if (!method) throw new SieveError('fold-plan', `There is no method “${plan.method}”.`, { field: 'method' });
  for (const setting of method.needs)
    if (plan[setting] === undefined) fail(setting, `Folds ${method.title} need ${setting}.`);
  const { repeatedRows = 'keep' } = plan;
  const distinct = repeatedRows === 'keep' ? null : distinctRows(table, usable);
  const taking = distinct?.usable ?? usable;
  const rows = indices(table.rowCount).filter((row) => taking?.[row] !== 0);
  const repeats = plan.repeats ?? 1;
  if (!Number.isInteger(plan.seed) || plan.seed < 0 || plan.seed > LARGEST_SEED)
    fail('seed', `A seed is a whole number from 0 to ${LARGEST_SEED}.`);
  if (!Number.isInteger(repeats) || repeats < 1 || repeats > 10_000)
    fail('repeats', 'Repeats are a whole number from 1 to 10,000.');
  if (repeats > 1 && !method.isRandom)
    fail('repeats', `Folds ${method.title} are the same each time, so there is nothing to repeat.`);
  for (const setting of ['gap', 'window'] as const) {
    const value = plan[setting];
    if (value !== undefined && !(Number.isFinite(value) && value >= 0 && (value > 0 || setting === 'gap')))
      fail(setting, `A ${setting} is a number ${setting === 'gap' ? 'from 0' : 'above 0'}.`);
  }
  if (method.needs.includes('k')) {
    const { k = 0 } = plan;
    if (!Number.isInteger(k) || k < 2) fail('k', 'The number of folds is a whole number from 2.');
    if (k > rows.length)
      throw new SieveError(
        'too-few-rows',
        `${counted(rows.length, 'row')} cannot make ${counted(k, 'fold')}: each fold needs a row.`,
        { field: 'k' },
      );
  }
  if (rows.length < 2)
    throw new SieveError('too-few-rows', `${counted(rows.length, 'row')} cannot make folds.`);
  const made = method.make({ table, plan, rows, repeats });
  return {
    method: method.id,
    ...(distinct && repeatedRows === 'together' ? withRepeats(made, distinct) : made),
  };
}

/** Folds of the first of each set of rows that are the same, with the other rows of the set in the same place. */
function withRepeats(made: MadeFolds, { first }: DistinctRows): MadeFolds {
  const rowsOf = new Map<number, number[]>();
  first.forEach((one, row) => {
    if (one < 0) return;
    const rows = rowsOf.get(one);
    if (rows) rows.push(row);
    else rowsOf.set(one, [row]);
  });
  return {
    ...made,
    tests: made.tests.map((test) => first.map((one) => (one < 0 ? -1 : at(test, one)))),
    training: (repeat, fold) =>
      Int32Array.from([...made.training(repeat, fold)].flatMap((row) => rowsOf.get(row) ?? [])).sort(),
  };
}

/** The rows tested in a fold, ascending. */
export const testRows = ({ tests }: Folds, repeat: number, fold: number): Int32Array => {
  const folds = tests[repeat] ?? new Int32Array();
  return indices(folds.length).filter((row) => folds[row] === fold);
};
