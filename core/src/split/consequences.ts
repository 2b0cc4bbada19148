import type { Check } from '../check/check.js';
import { qualityChecks } from '../quality/checks.js';
import { crossingGroups } from '../quality/crossing.js';
import type { Drift } from '../quality/drift.js';
import type { PartRows } from '../quality/part-summary.js';
import { splitQuality, type QualityOptions } from '../quality/quality.js';
import { count, counted } from '../numbers.js';
import { labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { columnNamed, type Table } from '../table/table.js';
import { partMap, type MapCell } from './part-map.js';
import { partition, type PartitionPlan } from './partition.js';
import { PART_NAMES, type PartName } from './plan.js';
import type { SplitRows } from './split.js';
import { strataOf } from './strata.js';
import type { UsableRows } from './usable.js';

export interface PartSummary extends PartRows {
  readonly name: PartName;
}

export interface SplitConsequences {
  readonly unlabelled: number;
  readonly repeated: number;
  /** Rows that the plan itself leaves out: those in a gap. */
  readonly leftOut: number;
  readonly parts: readonly PartSummary[];
  readonly labels: readonly string[];
  readonly drift: readonly Drift[];
  readonly checks: readonly Check[];
  readonly map: readonly MapCell[];
}

/** What the columns are for, as the quality of a split asks for it; the plan's own columns come first. */
const qualityRoles = (roles: Roles, plan: Pick<PartitionPlan, 'group' | 'time'>): QualityOptions => {
  const group = plan.group ?? roles.group;
  const time = plan.time ?? roles.time;
  return {
    target: roles.target,
    numeric: roles.task === 'regression',
    withheld: [...roles.withheld, ...(roles.weight === null ? [] : [roles.weight])],
    ...(group === null ? {} : { group }),
    ...(time === null ? {} : { time }),
    ...(roles.identifier === null ? {} : { identifier: roles.identifier }),
  };
};

/** What follows from a split: everything that the desk shows beside the plan. */
export function splitConsequences(
  table: Table,
  roles: Roles,
  used: UsableRows,
  { parts, plan }: SplitRows,
): SplitConsequences {
  const target = columnNamed(table, roles.target);
  const strata = roles.task === 'regression' ? strataOf(target) : labelsOf(target);
  const options = qualityRoles(roles, plan);
  const quality = splitQuality(table, { names: PART_NAMES, parts }, { ...options, apart: false });
  const checks = qualityChecks(quality, roles.target, false).map((check) =>
    check.id === 'groups' && check.outcome === 'holds'
      ? { ...check, measured: wouldPart(table, plan, used, options.group ?? '') }
      : check,
  );
  return {
    unlabelled: used.unlabelled,
    repeated: used.repeated,
    leftOut: parts.reduce((n, part, row) => (part < 0 && used.usable[row] === 1 ? n + 1 : n), 0),
    parts: quality.parts.map(({ name, rows, classes, targetMean }) => ({
      name: PART_NAMES.find((part) => part === name) ?? 'training',
      rows,
      classes,
      targetMean,
    })),
    labels: strata.labels,
    drift: quality.features,
    checks,
    map: partMap(table, options.group ?? null, strata, parts),
  };
}

/** What the same sizes drawn by rows would do to the groups. */
function wouldPart(table: Table, plan: PartitionPlan, used: UsableRows, group: string): string {
  const { codes } = labelsOf(columnNamed(table, group));
  const sized = plan.method === 'grouped' || plan.method === 'stratified-grouped';
  const parts = sized
    ? plan.parts
    : [
        { name: 'training', share: 0.8 },
        { name: 'heldout', share: 0.2 },
      ];
  const drawn = partition(table, { method: 'random', parts, seed: plan.seed }, used.usable);
  const crossing = crossingGroups(codes, drawn.parts).size;
  const total = new Set(codes.filter((code, row) => code >= 0 && used.usable[row] === 1)).size;
  return sized
    ? `a split by rows would part ${crossing === total ? 'all ' : ''}${count(crossing)}`
    : `80 and 20 % drawn by rows would part ${counted(crossing, 'group')}`;
}
