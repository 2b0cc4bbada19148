import type { BayesState } from './bayes/state.js';
import type { NeighboursState } from './nearest.js';
import type { TreeState } from './tree/state.js';

/** One answer for every row: the shares of the classes, or a number. */
export interface ConstantState {
  readonly form: 'constant';
  readonly values: readonly number[];
}

/** A number from the terms of the design; for two classes the probability of the positive one, kept within 0 and 1. */
export interface LinearState {
  readonly form: 'linear';
  readonly intercept: number;
  readonly slopes: readonly number[];
}

/** Log-odds of each class from the terms of the design; those of the class that others are compared with are 0. */
export interface LogitsState {
  readonly form: 'logits';
  readonly intercepts: readonly number[];
  /** For each class one slope for each term. */
  readonly slopes: readonly (readonly number[])[];
}

/** What a model needs in order to predict, as plain data that can be written as JSON. */
export type ModelState = ConstantState | LinearState | LogitsState | NeighboursState | BayesState | TreeState;
