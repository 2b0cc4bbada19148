import type { AnswerKey } from '../../files/judge.js';
import type { Refit } from '../refits/refit.js';

/** Names of the rows that a file must name, in the order of the pack. */
export interface NamedRows {
  readonly identifier: string;
  readonly identifiers: readonly string[];
}

/** What an assignment may be off by, beyond the points that the question allows. */
export interface Bounds {
  /** Rows by which the size of a part may be off. */
  readonly rows: number;
  /** Rows by which the largest and the smallest fold may differ. */
  readonly range: number;
  /** By which the share of a class in a part, or the distribution of a number, may be off; from 0 to 1. */
  readonly share: number;
}

/** What judges a split or folds: codes of each of the rows that were given, −1 where one has none. */
export interface RowsKey {
  readonly strata: {
    readonly column: string;
    readonly labels: readonly string[];
    readonly codes: Int32Array;
    /** The numbers themselves, where the column has too many of them to be classes; null or left out otherwise. */
    readonly values?: Float64Array | null;
  } | null;
  readonly groups: {
    readonly column: string;
    readonly labels: readonly string[];
    readonly codes: Int32Array;
  } | null;
  readonly time: { readonly column: string; readonly values: Float64Array } | null;
  /** For each row the first row with the same features. */
  readonly twins: Int32Array;
  /** What an honest assignment may be off by; keys of earlier versions have none. */
  readonly bounds?: Bounds;
  /** Of the target, where predictions are judged; null otherwise. */
  readonly truth: AnswerKey | null;
  /** Mean and standard error of the reference runs' metric; null where there is none. */
  readonly references: readonly { readonly mean: number; readonly se: number }[];
  /** The model that predictions are compared with; null or left out where any model may be used. */
  readonly refit?: Refit | null;
}
