import type { Random } from '../../foundation/random/random.js';
import type { Helpers } from '../../foundation/work/work.js';
import type { Design } from '../prepared/design.js';
import type { Feature } from '../prepared/recipe.js';
import type { Target } from '../prepared/target.js';

/** Rows as a model takes them. */
export interface Sample {
  readonly rowCount: number;
  readonly features: readonly Feature[];
  /** Numbers alone; made when it is first asked for. */
  readonly design: () => Design;
}

/** Rows to train on. */
export interface Training extends Sample {
  readonly target: Target;
  /** None is negative and not all are 0; null for 1 each. */
  readonly weights: Float64Array | null;
  /** Of each row the code of its group, where rows belong together; null where they do not. Made when it is first asked for. */
  readonly groups: () => Int32Array | null;
  readonly random: Random;
  /** Threads that a family may use; what it learns does not depend on them. */
  readonly helpers?: Helpers;
}
