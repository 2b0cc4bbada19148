import { fileSlip, type FileSlip } from '../../slips/contract/file-slip.js';
import type { FoundOtherwise } from './found-otherwise.js';

/** A model that was read. */
export interface HandedModel {
  /** The columns that it takes. */
  readonly inputs: readonly string[];
  readonly target: string | null;
  readonly identifier: string | null;
  /** Columns that it may not use, those among them. */
  readonly forbidden: readonly string[];
  /** The mistake without which it would fit the training rows far better; null where there is none. */
  readonly otherwise: FoundOtherwise | null;
  /** Whether it is right on every training row, and was found overfitted. */
  readonly isMemorised: boolean;
}

const otherwiseBy = (slip: FoundOtherwise['slip'], { otherwise }: HandedModel): string | null =>
  otherwise?.slip === slip ? otherwise.evidence : null;

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
    id: 'columns-in-other-order',
    title: 'columns in another order',
    from: 'form',
    says: 'The model seems to get its columns in another order than the one it was fitted on: in another order it fits the training rows far better.',
    remedy:
      'Fit and predict with the same list of columns, written down once. A model whose inputs have no names knows each column by its place alone.',
    example:
      'Fitted on mite wash and weight, in the order of the alphabet, and given weight and mite wash as in the file: a weight of 31 kg is read as 31 mites.',
    test: (model) => otherwiseBy('columns-in-other-order', model),
  }),
  fileSlip({
    id: 'preparation-missing',
    title: 'scaling missing',
    from: 'form',
    says: 'The model seems to be fitted on scaled numbers, and gets them as they stand in the file: with scaled numbers it fits the training rows far better.',
    remedy:
      'Save the preparation together with the model, as one pipeline. What was learnt on scaled numbers says nothing of others.',
    example:
      'Fitted on weights of mean 0 and deviation 1, a model is given a weight of 31 kg, and reads it as 31 deviations above the mean.',
    test: (model) => otherwiseBy('preparation-missing', model),
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
