import type { RunCurve } from './run-curve.js';
import type { FoldAssignment } from '../../splitting/folds/fold-assignment.js';
import type { Fitted } from '../../models/fitted.js';
import type { Secret } from '../../foundation/random/secret.js';
import type { SplitPlan } from '../../splitting/splits/splitter.js';
import type { Roles } from '../../data/table/roles.js';
import type { Table } from '../../data/table/table.js';

/** What keys are computed from. */
export interface Material {
  readonly table: Table;
  readonly roles: Roles;
  readonly plan: SplitPlan;
  /** Part of each row, as `splitRows` gives it. */
  readonly parts: Int8Array;
  readonly folds: FoldAssignment | null;
  /** For each row of the table what it is for in the data set's reserve: `FEEDBACK`, `FINAL`, or 0 for no held-out row. */
  readonly division: Uint8Array;
  /** Of the exercise: orders, identifiers and wording follow from it, and nobody else can predict them. */
  readonly secret: Secret;
  /** The models of the reference runs. */
  readonly references: readonly Fitted[];
  /** Curves of runs by their ids. */
  readonly curves: Readonly<Record<string, RunCurve>>;
}
