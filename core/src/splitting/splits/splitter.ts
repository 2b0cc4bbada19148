import type { Parameters, ValuesOf } from '../../data/sentence/parameter.js';
import type { Plan, SentenceKind } from '../../data/sentence/sentence.js';
import type { Table } from '../../data/table/table.js';
import type { PartName } from '../parts/part-names.js';
import { REPEATED_ROWS_SENTENCE, repeatedRowsParameter } from '../parts/repeated-rows.js';
import type { PartSize } from '../parts/parts.js';
import type { SplitSettings } from './settings.js';

/** How the rows of a table are split: the method by its name, the sizes, and the settings that the method uses. */
export interface PartitionPlan extends SplitSettings {
  readonly method: string;
  readonly parts: readonly PartSize[];
  readonly seed: number;
  /** A further part for rows without a value in `target`: they are to be predicted, not scored. */
  readonly unlabelled?: { readonly name: string; readonly target: string };
}

/** What a method is given. */
export interface SplitRequest {
  readonly table: Table;
  readonly plan: PartitionPlan;
  /** The rows to be split, ascending. */
  readonly rows: Int32Array;
  /** Receives the part of each of them. */
  readonly parts: Int8Array;
}

/** A method of assigning rows to parts. */
export interface SplitMethod {
  readonly name: string;
  /** Name and version: what a plan gives never changes under the same name. */
  readonly id: string;
  /** As it follows "a split". */
  readonly title: string;
  /** Whether another seed, or another text to hash with, gives another split. */
  readonly isRandom: boolean;
  readonly needs: readonly (keyof SplitSettings)[];
  /** The command line takes this method where all of these are given; null where it must be named. */
  readonly chosenBy: readonly (keyof SplitSettings)[] | null;
  /** What is true of every split that it makes. */
  readonly invariants: readonly SplitInvariant[];
  readonly assign: (request: SplitRequest) => void;
}

/** How a table's rows are split into training, validation and held-out rows, as one sentence. */
export type SplitPlan = Plan;

/** What a sentence asks of a method. */
export interface AskedSplit {
  readonly table: Table;
  readonly plan: PartitionPlan;
  /** What each part of the partition is. */
  readonly parts: readonly PartName[];
}

/** One way of splitting a table: its sentence with its parameters, and the methods that it uses. */
export interface Splitter<P extends Parameters = Parameters> extends SentenceKind<P> {
  /** Whether another seed, or another text to hash with, gives another split. */
  readonly isRandom: boolean;
  /** Which rows are held out: those that the plan chooses, or those that the data set's reserve holds already. */
  readonly holdsOut: 'plan' | 'reserve';
  /** Its own methods; one that uses those of another splitter has none. */
  readonly methods: readonly SplitMethod[];
  /** @throws SieveError `plan-value` with the key of the parameter as its field */
  ask(table: Table, values: ValuesOf<P>): AskedSplit;
}

const repeatedRows = repeatedRowsParameter('part');

/** A way of splitting; what becomes of repeated rows stands at the end of each sentence. */
export const splitter = <const P extends Parameters>(one: Splitter<P>): Splitter => {
  const all: Splitter<P & { repeatedRows: typeof repeatedRows }> = {
    ...one,
    parameters: { ...one.parameters, repeatedRows },
    sentence: (values) => `${one.sentence(values)} ${REPEATED_ROWS_SENTENCE}`,
    ask: (table, values) => {
      const asked = one.ask(table, values);
      return { ...asked, plan: { ...asked.plan, repeatedRows: values.repeatedRows ?? 'keep' } };
    },
  };
  return all;
};

/** Something that is true of every split that a method makes. Tests try it on random tables and plans. */
export interface SplitInvariant {
  readonly text: string;
  /** Whether it is true of the rows of a request and the parts that they were assigned. */
  readonly holds: (request: SplitRequest) => boolean;
}
