import type { Check } from '../../../foundation/check.js';
import type { Predictions } from '../../files/reader.js';

/** A node of a drawn tree: what is asked on the way to it, and what a leaf says. */
export interface DrawnNode {
  /** "hives ≥ 3"; empty at the root. */
  readonly when: string;
  /** Null for a node with branches and no prediction of its own. */
  readonly says: string | null;
  readonly branches: readonly DrawnNode[];
}

/** Key of the field of an answer that says which column an input takes. */
export const columnField = (input: string): string => `column:${input}`;

/** What can be drawn of a model. */
export type ModelPicture =
  | {
      readonly kind: 'coefficients';
      readonly terms: readonly { readonly term: string; readonly estimate: number }[];
      /** The class whose log-odds they sum to; null for a number, and where the file does not say. */
      readonly of: string | null;
      /** Terms that are left out. */
      readonly more: number;
    }
  | { readonly kind: 'tree'; readonly root: DrawnNode; readonly more: number }
  | {
      readonly kind: 'parts';
      /** Operators of a graph, or elements, with how often each occurs; the commonest first. */
      readonly parts: readonly { readonly name: string; readonly count: number }[];
    };

/** What is known of a model from its file. */
export interface ModelReport {
  readonly format: 'onnx' | 'pmml' | 'coefficients';
  /** In a few words: "tree ensemble, 20 trees". */
  readonly outline: string;
  /** Bytes of the file. */
  readonly size: number;
  /** The column of the data for each input, in the order of the model. */
  readonly inputs: readonly { readonly name: string; readonly column: string | null }[];
  /** Inputs that are not named. */
  readonly moreInputs: number;
  readonly picture: ModelPicture;
}

/** What a model says of some rows. */
export interface RowsRun {
  /** Null where it failed on them; a row without a prediction has that of `without`. */
  readonly predictions: Predictions | null;
  /** Rows for which it says nothing, 1 each. */
  readonly without: Uint8Array;
  /** Why it failed; null where it did not. */
  readonly problem: string | null;
}

/** What a model says of the first training rows if they are given to it in another way, which would show a mistake. */
export interface OtherRun {
  readonly slip: 'columns-in-other-order' | 'preparation-missing';
  /** "its columns by name", "its numbers standardised". */
  readonly way: string;
  readonly predictions: Predictions;
}

/** A model that was read and run, as plain data. */
export interface ModelRun {
  /** What was looked at on rows that its student has. */
  readonly checks: readonly Check[];
  /** Null where the file could not be read. */
  readonly report: ModelReport | null;
  readonly training: RowsRun | null;
  /** In other ways, where there are any. */
  readonly otherwise: readonly OtherRun[];
  /** Null where it was not run on the held-out rows. */
  readonly heldOut: RowsRun | null;
}

/** Of a model that was marked. */
export interface ModelResult {
  readonly report: ModelReport;
  /** On the training rows, by the metric of the question; null where it is undefined. */
  readonly training: { readonly metric: string; readonly rows: number; readonly score: number | null };
}
