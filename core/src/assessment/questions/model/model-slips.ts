import { fileSlip, type FileSlip } from '../../slips/contract/file-slip.js';

/** A model that was read. */
export interface HandedModel {
  /** The columns that it takes. */
  readonly inputs: readonly string[];
  readonly target: string | null;
  readonly identifier: string | null;
  /** Columns that it may not use, those among them. */
  readonly forbidden: readonly string[];
  /** Whether it is right on every training row, and was found overfitted. */
  readonly isMemorised: boolean;
}

/** Mistakes in a model. */
export const MODEL_SLIPS: readonly FileSlip<HandedModel>[] = [
  fileSlip({
    id: 'target-among-inputs',
    title: 'target among the inputs',
    from: 'form',
    says: 'The model takes the target itself as an input.',
    remedy:
      'Take the target out of the features before you fit. A model that knows the answer has learnt nothing else.',
    example: 'A table is given whole to a pipeline, the column “survived” with it.',
    test: ({ inputs, target }) => (target !== null && inputs.includes(target) ? `it takes ${target}` : null),
  }),
  fileSlip({
    id: 'identifier-used',
    title: 'identifier used',
    from: 'form',
    says: 'The model takes the identifier as an input.',
    remedy:
      'Leave the column that names the rows out of the features. It has another value in every row, and tells nothing of new ones.',
    example: 'A tree that asks whether the number of a hive is above 212.',
    test: ({ inputs, identifier }) =>
      identifier !== null && inputs.includes(identifier) ? `it takes ${identifier}` : null,
  }),
  fileSlip({
    id: 'withheld-column-used',
    title: 'a withheld column used',
    from: 'form',
    says: 'The model takes a column that it may not use.',
    remedy:
      'The sheet names the columns that may be used. A column that is known only afterwards gives the target away.',
    example: 'The weight in spring, where survival of the winter is to be predicted in autumn.',
    test({ inputs, forbidden, target, identifier }) {
      const found = inputs.find((name) => forbidden.includes(name) && name !== target && name !== identifier);
      return found === undefined ? null : `it takes ${found}`;
    },
  }),
  fileSlip({
    id: 'memorised',
    title: 'training rows learnt by heart',
    from: 'key',
    says: 'The model is right on every training row, and a simpler one does better on others.',
    remedy:
      'Limit how closely the model may follow its rows: depth, rows of a leaf, neighbours, a penalty. Choose the limit over folds.',
    example: 'A nearest neighbour is always right on its own rows: its nearest row is itself.',
    test: ({ isMemorised }) =>
      isMemorised ? 'every training row is right, and it was found overfitted' : null,
  }),
];
