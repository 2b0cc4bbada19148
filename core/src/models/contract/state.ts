import type { Explanation } from './explanation.js';
import type { Sample } from './sample.js';

/** What a model needs in order to predict, as plain data that can be written as JSON. Its form says how it is read. */
export interface ModelState {
  readonly form: string;
}

/**
 * Predictions of n rows: a single array of numbers, or for each class n probabilities. A linear fit of two classes
 * gives a single array as well, of the positive class.
 */
export type Predicted = readonly Float64Array[];

/** How large a model is, in what its family is counted by. */
export interface ModelSize {
  readonly count: number;
  readonly of: 'coefficients' | 'leaves' | 'features' | 'support vectors' | 'weights';
}

/** A form of state, which one family has or several share. */
export interface StateForm<S extends ModelState = ModelState> {
  readonly name: S['form'];
  /** What a model predicts. Classes are in the order of the target's labels. */
  predict(state: S, sample: Sample): Predicted;
  /**
   * Why it says what it says of a row, null where this model has no account of itself; a form none of whose models has one lacks it.
   *
   * @param one the row alone
   * @param typical a row whose cells are all missing
   */
  explain?(state: S, one: Sample, typical: Sample): Explanation | null;
  /** Null for a model that uses no feature. @param features how many features its recipe has */
  sizeOf(state: S, features: number): ModelSize | null;
}

/** Whether a state is of a form. */
export const isOf = <S extends ModelState>(form: StateForm<S>, state: ModelState): state is S =>
  state.form === form.name;
