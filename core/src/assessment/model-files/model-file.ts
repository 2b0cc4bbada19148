import type { ModelPicture } from '../questions/contract/model-run.js';
import type { Table } from '../../data/table/table.js';

/** What a submitted model predicts from. */
export interface ModelInput {
  readonly name: string;
  /** Whether its values are numbers or texts. */
  readonly takes: 'numbers' | 'texts';
  /** The texts that the model knows; null where it does not say. */
  readonly values: readonly string[] | null;
}

/** What a model predicts for n rows. */
export interface ModelPredictions {
  /** Numbers or labels; null where the model says nothing of a row. */
  readonly values: readonly (number | string | null)[];
  /** Probabilities of each label; null for numbers, and for models that give labels alone. */
  readonly probabilities: {
    readonly labels: readonly string[];
    readonly values: readonly Float64Array[];
  } | null;
  /** Why rows have no prediction, for the first few of them. */
  readonly problems: readonly { readonly row: number; readonly message: string }[];
}

/** A submitted model that has been read and can be run. */
export interface ModelFile {
  readonly format: 'onnx' | 'pmml' | 'coefficients' | 'fitted';
  readonly inputs: readonly ModelInput[];
  /** What it is, in a few words: "tree ensemble, 20 trees". */
  readonly outline: string;
  /** What can be drawn of it; made when it is asked for. */
  readonly picture: () => ModelPicture;
  /**
   * @param table a column for each input, in any order
   * @param columnOf the name of the column for an input
   * @throws SieveError `no-such-column`, `model-file`
   */
  predict(table: Table, columnOf: (input: string) => string): Promise<ModelPredictions>;
}

/** Problems that are kept. */
export const MOST_PROBLEMS = 5;
