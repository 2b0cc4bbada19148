import type { StateForm } from '../contract/state.js';

/** One answer for every row: the shares of the classes, or a number. */
export interface ConstantState {
  readonly form: 'constant';
  readonly values: readonly number[];
}

export const constantForm: StateForm<ConstantState> = {
  name: 'constant',
  predict: ({ values }, { rowCount }) => values.map((value) => new Float64Array(rowCount).fill(value)),
  sizeOf: () => null,
};
