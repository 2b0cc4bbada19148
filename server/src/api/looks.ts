import type { CorrelationMatrix, Pair, Roles, TargetAtValue } from '@modest-sieve/core/data';
import type { Findings } from '@modest-sieve/core/audit';

// What the HTTP API takes and answers of what a look at a table shows.

/** What a look at a table finds. */
export type TableFindings = Findings;

/** The target at the values of one column, or at the tenths of one of many numbers. */
export interface TargetByValue {
  /** The class whose share is shown; null for the mean of a number. */
  readonly label: string | null;
  /** Of a column of many values those with the most rows; none of free texts. */
  readonly values: readonly TargetAtValue[];
  /** Values that are left out. */
  readonly more: number;
}

/** Two columns looked at together. */
export type ColumnPair = Pair;

/** Of the columns of numbers, those that go together next to one another. */
export type Correlations = CorrelationMatrix;

export interface RowPage {
  readonly columns: readonly string[];
  readonly offset: number;
  /** Rows of the version, or of those for which the condition holds. */
  readonly total: number;
  /** Number of each row in the version, from 1. */
  readonly numbers: readonly number[];
  readonly rows: readonly (readonly (string | null)[])[];
}

export interface TargetSuggestion {
  readonly task: Roles['task'];
  readonly labels: readonly string[];
}
