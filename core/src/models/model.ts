import type { Random } from '../random/random.js';
import type { Parameters, ValuesOf } from '../sentence/parameter.js';
import type { SentenceKind } from '../sentence/sentence.js';
import type { Task } from '../table/roles.js';
import type { Description } from './description.js';
import type { Design } from './prepared/design.js';
import type { Feature } from './prepared/recipe.js';
import type { Target } from './prepared/target.js';
import type { ModelState } from './state.js';

/** Rows as a model takes them. */
export interface Sample {
  readonly rowCount: number;
  readonly features: readonly Feature[];
  /** Numbers alone; made when it is first asked for. */
  readonly design: () => Design;
}

/** Rows to learn from. */
export interface Training extends Sample {
  readonly target: Target;
  /** None is negative and not all are 0; null for 1 each. */
  readonly weights: Float64Array | null;
  readonly random: Random;
}

/** What a model learned. */
export interface Learned {
  readonly state: ModelState;
  readonly description: Description;
  /** What whoever reads the figures should know, as sentences. */
  readonly warnings: readonly string[];
}

/** A setting along which a curve of models may run. */
export interface Along {
  readonly key: string;
  /** Whether a larger value makes a model more complex, or simpler. */
  readonly larger: 'complex' | 'simple';
  /** The settings that a curve has where none are chosen. */
  readonly settings: readonly number[] | 'path';
  /** Set where `fitAlong` has a cheaper way: such a setting runs innermost in a grid. */
  readonly together?: true;
}

/** A family of models: everything that is to be known of it. */
export interface ModelKind<P extends Parameters = Parameters> extends SentenceKind<P> {
  readonly tasks: readonly Task[];
  /** Where method and conventions come from. */
  readonly source: string;
  readonly along: readonly Along[];
  /** @throws SieveError `model` with the key of a parameter as its field where it cannot be fitted so */
  fit(training: Training, values: ValuesOf<P>): Learned;
  /** The values of a setting that the data suggest, from simple to complex. */
  path?(training: Training, values: ValuesOf<P>): readonly number[];
  /** Models at several values of one setting, where that is cheaper than one after another; null for a setting where it is not. */
  fitAlong?(
    training: Training,
    values: ValuesOf<P>,
    key: string,
    settings: readonly number[],
  ): ModelState[] | null;
}

/** Takes a kind with its own parameters into the registry, where all kinds are of one type. */
export const modelKind = <const P extends Parameters>(kind: ModelKind<P>): ModelKind => kind;
