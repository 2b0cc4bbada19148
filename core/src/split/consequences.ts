import type { Check } from '../check/check.js';
import { labelsOf } from '../table/labels.js';
import { featuresOf, type Roles } from '../table/roles.js';
import { columnNamed, type Table } from '../table/table.js';
import {
  driftCheck,
  groupCheck,
  LARGE_DRIFT,
  shareCheck,
  tellingChecks,
  twinCheck,
} from './consequence-checks.js';
import { driftOf, type Drift } from './drift.js';
import { partMap, type MapCell } from './part-map.js';
import { summariseParts, type PartSummary } from './part-summary.js';
import type { SplitPlan } from './plan.js';
import { rowsOfPart, strataOf } from './split.js';
import type { UsableRows } from './usable.js';

export interface SplitConsequences {
  readonly unlabelled: number;
  readonly repeated: number;
  readonly parts: readonly PartSummary[];
  readonly labels: readonly string[];
  readonly drift: readonly Drift[];
  readonly checks: readonly Check[];
  readonly map: readonly MapCell[];
}

/** What follows from a split: everything that the desk shows beside the plan. */
export function splitConsequences(
  table: Table,
  roles: Roles,
  plan: SplitPlan,
  used: UsableRows,
  parts: Int8Array,
): SplitConsequences {
  const target = columnNamed(table, roles.target);
  const strata = roles.task === 'regression' ? strataOf(target) : labelsOf(target);
  const summaries = summariseParts(table, roles, strata, parts);
  const features = featuresOf(table, roles);
  const drift = features
    .filter((column) => column.name !== plan.group)
    .map((column) => driftOf(column, rowsOfPart(parts, 0), rowsOfPart(parts, 2)))
    .filter((d) => d !== null)
    .sort((a, b) => b.value - a.value);
  return {
    unlabelled: used.unlabelled,
    repeated: used.repeated,
    parts: summaries,
    labels: strata.labels,
    drift,
    checks: [
      ...groupCheck(table, roles, plan, used, parts),
      shareCheck(summaries, strata.labels, roles.target),
      twinCheck(features, parts),
      ...drift
        .filter((d) => d.value >= LARGE_DRIFT)
        .slice(0, 3)
        .map(driftCheck),
      ...tellingChecks(features, roles, strata.codes, used.usable, strata.labels),
    ],
    map: partMap(table, plan.group ?? roles.group, strata, parts),
  };
}
