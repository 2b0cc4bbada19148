import type { Parameters, ValuesOf } from '../../data/sentence/parameter.js';
import type { Plan, SentenceKind } from '../../data/sentence/sentence.js';
import type { Table } from '../../data/table/table.js';
import { REPEATED_ROWS_SENTENCE, repeatedRowsParameter } from '../parts/repeated-rows.js';
import type { FoldSettings } from './settings.js';

/** How folds are made: the method by its name, and the settings that it uses. */
export interface FoldPlan extends FoldSettings {
  readonly method: string;
  readonly seed: number;
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
  /** What users of the folds should know, as sentences. */
  readonly warnings: readonly string[];
}

/** What a method is given. */
export interface FoldRequest {
  readonly table: Table;
  readonly plan: FoldPlan;
  /** The rows that take part, ascending; at least two. */
  readonly rows: Int32Array;
  readonly repeats: number;
}

/** Folds before they have the name of their method. */
export type MadeFolds = Omit<Folds, 'method'>;

/** A method of making folds. */
export interface FoldMethod {
  readonly name: string;
  /** Name and version: what a plan gives never changes under the same name. */
  readonly id: string;
  /** As it follows "folds". */
  readonly title: string;
  readonly needs: readonly (keyof FoldSettings)[];
  /** Whether another seed gives other folds. */
  readonly isRandom: boolean;
  /** The command line takes this method where all of these are given; null where it must be named. */
  readonly chosenBy: readonly (keyof FoldSettings)[] | null;
  /** What is true of all folds that it makes. */
  readonly invariants: readonly FoldInvariant[];
  readonly make: (request: FoldRequest) => MadeFolds;
}

/** How folds are made, as one sentence. */
export type FoldSentence = Plan;

/** One way of making folds: its sentence with its parameters, and the methods that it uses. */
export interface FoldSplitter<P extends Parameters = Parameters> extends SentenceKind<P> {
  readonly methods: readonly FoldMethod[];
  ask(values: ValuesOf<P>): FoldPlan;
}

const repeatedRows = repeatedRowsParameter('fold');

/** A way of making folds; what becomes of repeated rows stands at the end of each sentence. */
export const foldSplitter = <const P extends Parameters>(one: FoldSplitter<P>): FoldSplitter => {
  const all: FoldSplitter<P & { repeatedRows: typeof repeatedRows }> = {
    ...one,
    parameters: { ...one.parameters, repeatedRows },
    sentence: (values) => `${one.sentence(values)} ${REPEATED_ROWS_SENTENCE}`,
    ask: (values) => ({ ...one.ask(values), repeatedRows: values.repeatedRows ?? 'keep' }),
  };
  return all;
};

/** Something that is true of all folds that a method makes. Tests try it on random tables and plans. */
export interface FoldInvariant {
  readonly text: string;
  readonly holds: (request: FoldRequest, folds: MadeFolds) => boolean;
}
