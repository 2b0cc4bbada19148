import { SieveError } from '../errors.js';
import { counted, indices } from '../numbers.js';
import { LARGEST_SEED } from '../split/plan.js';
import type { Table } from '../table/table.js';
import { FOLD_METHODS, type FoldMethodName } from './fold-methods.js';

/** How folds are to be made. Settings that the method does not use are left out. */
export interface FoldPlan {
  readonly method: FoldMethodName;
  readonly seed: number;
  /** Number of folds; not for leaving out single rows or groups, nor for the bootstrap. */
  readonly k?: number;
  /** How often everything is drawn anew; 1 where left out. */
  readonly repeats?: number;
  readonly stratify?: string;
  readonly group?: string;
  readonly time?: string;
  /** Length of a sliding window of training: days for dates, units of the column for numbers. */
  readonly window?: number;
  /** Time left out between training and testing, in the same unit. */
  readonly gap?: number;
}

/** Folds over the rows of a table. */
export interface Folds {
  /** Algorithm and version: what a plan gives never changes under the same name. */
  readonly method: string;
  /** Folds in each repeat. */
  readonly count: number;
  /** For each repeat, the fold from 0 in which each row is tested; −1 for a row that never is. */
  readonly tests: readonly Int32Array[];
  /** Rows trained on in a fold, ascending; the bootstrap names a row as often as it was drawn. */
  readonly training: (repeat: number, fold: number) => Int32Array;
  /** What whoever uses the folds should know, as sentences. */
  readonly warnings: readonly string[];
}

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
  const method = FOLD_METHODS[plan.method];
  for (const setting of method.needs)
    if (plan[setting] === undefined) fail(setting, `Folds ${method.title} need ${setting}.`);
  const rows = indices(table.rowCount).filter((row) => usable?.[row] !== 0);
  const repeats = plan.repeats ?? 1;
  if (!Number.isInteger(plan.seed) || plan.seed < 0 || plan.seed > LARGEST_SEED)
    fail('seed', `A seed is a whole number from 0 to ${LARGEST_SEED}.`);
  if (!Number.isInteger(repeats) || repeats < 1 || repeats > 10_000)
    fail('repeats', 'Repeats are a whole number from 1 to 10,000.');
  if (repeats > 1 && !method.isDrawn)
    fail('repeats', `Folds ${method.title} come out the same each time, so there is nothing to repeat.`);
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
  return { method: method.id, ...method.make({ table, plan, rows, repeats }) };
}

/** The rows tested in a fold, ascending. */
export const testRows = ({ tests }: Folds, repeat: number, fold: number): Int32Array => {
  const folds = tests[repeat] ?? new Int32Array();
  return indices(folds.length).filter((row) => folds[row] === fold);
};
