import { SieveError } from '../../foundation/errors.js';
import { counted } from '../../foundation/numbers.js';
import { seededRandom, type Random } from '../../foundation/random/random.js';
import type { MadeFolds } from './fold-splitter.js';

/** Each repeat has a stream of its own, so that more repeats leave the first ones as they are. */
export const randomOf = (seed: number, repeat: number): Random =>
  seededRandom(seed, repeat === 0 ? 'folds' : `folds ${repeat + 1}`);

/** Folds that train on every row that takes part and is not tested. */
export function allButTested(rows: Int32Array, count: number, tests: readonly Int32Array[]): MadeFolds {
  return {
    count,
    tests,
    training: (repeat, fold) => rows.filter((row) => tests[repeat]?.[row] !== fold),
    warnings: [],
  };
}

/** Each fold needs a group of its own. */
export const tooFewGroups = (found: number, column: string, k: number) =>
  new SieveError(
    'too-few-groups',
    `${counted(found, 'group')} of ${column} cannot make ${counted(k, 'fold')}: each fold needs a group of its own.`,
    { field: column },
  );
