import type { SplitPlan } from '../src/splitting/splits/splitter.js';
import type { Roles } from '../src/data/table/roles.js';

interface Draw {
  readonly shares?: { readonly training: number; readonly validation: number; readonly heldout: number };
  readonly stratify?: string;
  readonly group?: string;
  readonly seed?: number;
}

/** A plan that draws rows: 80 and 20 %, of nothing equal shares, with seed 1, where nothing else is said. */
export const draw = ({
  shares = { training: 80, validation: 0, heldout: 20 },
  stratify = '',
  group = '',
  seed = 1,
}: Draw = {}): SplitPlan => ({
  kind: 'draw',
  values: { sized: 'percent', ...shares, stratify, group, seed },
});

/** Iris, one of three kinds of flowers. */
export const IRIS_ROLES: Roles = {
  target: 'target',
  task: 'multiclass',
  positive: null,
  identifier: null,
  group: null,
  time: null,
  weight: null,
  withheld: [],
};
