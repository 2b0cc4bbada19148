import { describe, expect, it } from '@jest/globals';
import { tableOf } from '../../../test/files.js';
import { at } from '../../foundation/numbers.js';
import { makeFolds } from './folds.js';
import type { FoldPlan } from './fold-splitter.js';
import { tableFor } from './rows-of-tests.js';

describe('golden folds, which must never change', () => {
  const table = tableFor(Array.from({ length: 24 }, (_, i) => [i % 3 === 0 ? 1 : 0, i % 7, i] as const));
  it.each<[Partial<FoldPlan> & Pick<FoldPlan, 'method'>, number, string, string]>([
    [{ method: 'k-fold', k: 3 }, 0, 'k-fold@1', '331111123223322132133122'],
    [{ method: 'k-fold', k: 3 }, 2718, 'k-fold@1', '223321312111113222323313'],
    [{ method: 'stratified', k: 3, stratify: 'class' }, 0, 'stratified-k-fold@1', '332223132212311221133311'],
    [
      { method: 'stratified', k: 3, stratify: 'class' },
      2718,
      'stratified-k-fold@1',
      '313313113312211222123223',
    ],
    [{ method: 'grouped', k: 3, group: 'group' }, 0, 'grouped-k-fold@1', '321311232131123213112321'],
    [{ method: 'grouped', k: 3, group: 'group' }, 2718, 'grouped-k-fold@1', '321123132112313211231321'],
    [
      { method: 'stratified-grouped', k: 3, stratify: 'class', group: 'group' },
      0,
      'stratified-grouped-k-fold@1',
      '321311232131123213112321',
    ],
    [
      { method: 'stratified-grouped', k: 3, stratify: 'class', group: 'group' },
      2718,
      'stratified-grouped-k-fold@1',
      '321123132112313211231321',
    ],
    [{ method: 'expanding', k: 3, time: 'day' }, 0, 'expanding-window@1', '------111111222222333333'],
    [{ method: 'sliding', k: 3, time: 'day', window: 4 }, 0, 'sliding-window@1', '------111111222222333333'],
    [{ method: 'bootstrap' }, 0, 'bootstrap@1', '1--------1--1---11-11111'],
    [{ method: 'bootstrap' }, 2718, 'bootstrap@1', '-1--11-1--1--1--1-1-1---'],
  ])('%j with seed %i', (plan, seed, method, expected) => {
    const folds = makeFolds(table, { ...plan, seed });
    expect(folds.method).toBe(method);
    expect(Array.from(at(folds.tests, 0), (fold) => (fold < 0 ? '-' : String(fold + 1))).join('')).toBe(
      expected,
    );
  });
});

describe('impossible folds', () => {
  const table = tableOf('c,g,t\na,1,1\na,1,2\nb,2,3\na,2,4\n');
  it.each<[FoldPlan, string, string]>([
    [{ method: 'k-fold', k: 5, seed: 0 }, '4 rows cannot make 5 folds: each fold needs a row.', 'k'],
    [{ method: 'k-fold', k: 1, seed: 0 }, 'The number of folds is a whole number from 2.', 'k'],
    [{ method: 'k-fold', seed: 0 }, 'Folds at random need k.', 'k'],
    [
      { method: 'grouped', k: 3, group: 'g', seed: 0 },
      '2 groups of g cannot make 3 folds: each fold needs a group of its own.',
      'g',
    ],
    [{ method: 'expanding', k: 4, time: 't', seed: 0 }, 't has 4 different times; 4 folds need 5.', 't'],
    [
      { method: 'expanding', k: 2, time: 'c', seed: 0 },
      'c is a column of texts: it has no order in time.',
      'c',
    ],
    [{ method: 'expanding', k: 2, time: 't', gap: 9, seed: 0 }, 'Fold 1 has nothing to train on', 'gap'],
    [
      { method: 'sliding', k: 2, time: 't', window: 0.5, seed: 0 },
      'Fold 1 has nothing to train on',
      'window',
    ],
    [
      { method: 'leave-one-out', repeats: 2, seed: 0 },
      'Folds of single rows are the same each time, so there is nothing to repeat.',
      'repeats',
    ],
    [{ method: 'k-fold', k: 2, seed: 0.5 }, 'A seed is a whole number from 0 to 2147483647.', 'seed'],
    [
      { method: 'k-fold', k: 2, repeats: 0, seed: 0 },
      'Repeats are a whole number from 1 to 10,000.',
      'repeats',
    ],
    [{ method: 'stratified', k: 2, stratify: 'colour', seed: 0 }, 'There is no column “colour”.', 'colour'],
  ])('%j are refused, with the setting or column', (plan, message, field) => {
    const made = () => makeFolds(table, plan);
    expect(made).toThrow(message);
    expect(made).toThrow(expect.objectContaining({ place: { field } }));
  });

  it('a class with fewer rows than folds is a warning', () => {
    const { warnings } = makeFolds(table, { method: 'stratified', k: 2, stratify: 'c', seed: 0 });
    expect(warnings).toEqual(['“b” of c has 1 row, fewer than the 2 folds: some folds test none.']);
  });
});
