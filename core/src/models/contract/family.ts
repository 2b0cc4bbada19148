import type { Training } from './sample.js';
import type { ColumnInfo, Parameters, ValuesOf } from '../../data/sentence/parameter.js';
import type { SentenceKind } from '../../data/sentence/sentence.js';
import type { Task } from '../../data/table/roles.js';
import type { Description } from './description.js';
import type { StarterCode } from './starter-code.js';
import type { ModelState, StateForm } from './state.js';

/** What a model learned. */
export interface Learned {
  readonly state: ModelState;
  readonly description: Description;
  /** What readers of the figures should know, as sentences. */
  readonly warnings: readonly string[];
}

/** A setting over which a curve of models may run. */
export interface Hyperparameter {
  readonly key: string;
  /** Whether a larger value makes a model more complex, or simpler. */
  readonly larger: 'complex' | 'simple';
  /** The settings that a curve has where none are chosen. */
  readonly settings: readonly number[] | 'path';
  /** Set where `fitPath` has a cheaper way: such a setting runs innermost in a grid. */
  readonly batched?: true;
}

/** A family of models: everything that is to be known of it. */
export interface ModelFamily<P extends Parameters = Parameters> extends SentenceKind<P> {
  readonly tasks: readonly Task[];
  /** Where method and conventions come from. */
  readonly source: string;
  readonly hyperparameters: readonly Hyperparameter[];
  /** The forms of what it learns. */
  readonly forms: readonly StateForm[];
  /** Code in Python and R that fits such a model. */
  readonly starter: StarterCode;
  /**
   * Makes sure of what the types of its parameters do not say.
   *
   * @throws SieveError `plan-kind`, `plan-value`, `no-such-column`, with the key of a parameter as its field
   */
  checkValues?(values: ValuesOf<P>, task: Task, columns: readonly ColumnInfo[]): void;
  /** @throws SieveError `model` with the key of a parameter as its field where it cannot be fitted so */
  fit(training: Training, values: ValuesOf<P>): Learned;
  /** The values of a setting that the data suggest, from simple to complex. */
  path?(training: Training, values: ValuesOf<P>): readonly number[];
  /** Models at several values of one setting, where that is cheaper than one after another; null for a setting where it is not. */
  fitPath?(
    training: Training,
    values: ValuesOf<P>,
    key: string,
    settings: readonly number[],
  ): ModelState[] | null;
}

/** Takes a family with its own parameters into the registry, where all families are of one type. */
export const modelFamily = <const P extends Parameters>(family: ModelFamily<P>): ModelFamily => family;
