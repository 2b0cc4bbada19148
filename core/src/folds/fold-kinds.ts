import type { Kinded, Parameters, ValuesOf } from '../sentence/parameter.js';
import { checkPlanned, kindIn, type Planned, type SentenceKind } from '../sentence/sentence.js';
import { LARGEST_SEED } from '../split/plan.js';
import type { FoldPlan } from './folds.js';

/** How folds are to be made, as one sentence. */
export type FoldSentence = Planned;

/** A way of making folds: its sentence, and what it asks `makeFolds` for. */
export interface FoldKind<P extends Parameters = Parameters> extends SentenceKind<P> {
  ask(values: ValuesOf<P>): FoldPlan;
}

const foldKind = <const P extends Parameters>(kind: FoldKind<P>): FoldKind => kind;

const k = { type: 'number', label: 'number of folds', min: 2, step: 1, start: 5 } as const;
const repeats = (start: number) =>
  ({ type: 'number', label: 'repeats', min: 1, max: 1000, step: 1, start }) as const;
const seed = { type: 'number', label: 'seed', min: 0, max: LARGEST_SEED, step: 1, start: 2718 } as const;
const time = { type: 'column', label: 'the column of time', of: ['time', 'number'] } as const;
const gap = { type: 'number', label: 'gap', min: 0, start: 0 } as const;

/** Every way of making folds, in the order in which a menu has them. */
export const FOLD_KINDS: readonly FoldKind[] = [
  foldKind({
    key: 'draw',
    title: 'at random',
    about:
      'Each row is tested once in each repeat. Equal shares of a column’s values in every fold where one is named, whole groups where a column of groups is.',
    parameters: {
      k,
      stratify: { type: 'column', label: 'stratify by', none: 'nothing' },
      group: { type: 'column', label: 'group by', none: 'column: none' },
      repeats: repeats(1),
      seed,
    },
    sentence: () =>
      'Deal the rows into {k} folds, with equal shares of {stratify}, never parting rows of one {group}, {repeats} times over, seed {seed}.',
    ask: ({ stratify, group, ...values }) => {
      const byRows = stratify === '' ? 'k-fold' : 'stratified';
      const byGroups = stratify === '' ? 'grouped' : 'stratified-grouped';
      return {
        method: group === '' ? byRows : byGroups,
        ...values,
        ...(stratify === '' ? {} : { stratify }),
        ...(group === '' ? {} : { group }),
      };
    },
  }),
  foldKind({
    key: 'leave-one-group-out',
    title: 'one group at a time',
    about: 'Each fold tests the rows of one group and trains on all others.',
    parameters: { group: { type: 'column', label: 'group by' } },
    sentence: () => 'Test the rows of one {group} at a time, and train on all others.',
    ask: ({ group }) => ({ method: 'leave-one-group-out', seed: 0, group }),
  }),
  foldKind({
    key: 'leave-one-out',
    title: 'one row at a time',
    about: 'As many folds as rows: each tests one of them.',
    parameters: {},
    sentence: () => 'Test one row at a time, and train on all others.',
    ask: () => ({ method: 'leave-one-out', seed: 0 }),
  }),
  foldKind({
    key: 'expanding',
    title: 'over time, training on all that was before',
    about:
      'Rows in order of time are cut into one block more than folds; each fold tests a block and trains on all before it.',
    parameters: { k, time, gap },
    sentence: () =>
      'In order of {time} test {k} blocks one after another, each after training on all that lies before it with a gap of {gap}.',
    ask: (values) => ({ method: 'expanding', seed: 0, ...values }),
  }),
  foldKind({
    key: 'sliding',
    title: 'over time, training on a window',
    about:
      'The same, training on the last window of time before each block: days for dates, units of the column for numbers.',
    parameters: { k, time, window: { type: 'number', label: 'window', min: 0.000001, start: 365 }, gap },
    sentence: () =>
      'In order of {time} test {k} blocks one after another, each after training on the last {window} before it with a gap of {gap}.',
    ask: (values) => ({ method: 'sliding', seed: 0, ...values }),
  }),
  foldKind({
    key: 'bootstrap',
    title: 'with replacement',
    about: 'As many rows as there are, drawn with replacement; those never drawn are tested.',
    parameters: { repeats: repeats(25), seed },
    sentence: () =>
      'Draw as many rows as there are, with replacement, {repeats} times, and test those that were not drawn, seed {seed}.',
    ask: (values) => ({ method: 'bootstrap', ...values }),
  }),
];

/** @throws SieveError `plan-kind` */
export const foldKindOf = (plan: Pick<FoldSentence, 'kind'>): FoldKind =>
  kindIn(FOLD_KINDS, plan.kind, 'way of making folds');

/**
 * What a sentence asks `makeFolds` for.
 *
 * @throws SieveError `plan-kind`, `plan-value`, `no-such-column`
 */
export function foldPlanOf(sentence: FoldSentence, columns: readonly Kinded[]): FoldPlan {
  const kind = foldKindOf(sentence);
  checkPlanned(kind, sentence, columns);
  return kind.ask(sentence.values);
}
