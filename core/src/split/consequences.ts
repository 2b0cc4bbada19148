import type { Check } from '../check/check.js';
import { targetOf } from '../leaks/watch.js';
import { driftChecks, shareCheck, twinCheck } from '../quality/checks.js';
import { findTwins } from '../quality/crossing.js';
import { driftOf, type Drift } from '../quality/drift.js';
import { summariseParts, type PartRows } from '../quality/part-summary.js';
import { featuresOf, type Roles } from '../table/roles.js';
import { columnNamed, type Table } from '../table/table.js';
import { groupCheck, tellingChecks } from './consequence-checks.js';
import { partMap, type MapCell } from './part-map.js';
import { PART_NAMES, type PartName, type SplitPlan } from './plan.js';
import { rowsOfPart } from './split.js';
import type { UsableRows } from './usable.js';

export interface PartSummary extends PartRows {
  readonly name: PartName;
}

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
  const watched = targetOf(table, roles);
  const strata = watched.classes;
  const numeric = roles.task === 'regression' ? target : null;
  const summaries: PartSummary[] = summariseParts(PART_NAMES, parts, strata, numeric);
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
      twinCheck(findTwins(features, parts, null)),
      ...driftChecks(drift),
      ...tellingChecks(watched),
    ],
    map: partMap(table, plan.group ?? roles.group, strata, parts),
  };
}
