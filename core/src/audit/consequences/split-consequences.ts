import { check, type Check } from '../../foundation/check.js';
import { qualityChecks } from '../quality/checks.js';
import { crossingGroups } from '../quality/crossing.js';
import type { Drift } from '../quality/drift.js';
import type { PartRows } from '../quality/part-summary.js';
import { splitQuality, type QualityOptions } from '../quality/quality.js';
import { count, counted } from '../../foundation/numbers.js';
import { labelsOf } from '../../data/table/labels.js';
import type { Roles } from '../../data/table/roles.js';
import { columnNamed, type Table } from '../../data/table/table.js';
import { partMap, type MapCell } from '../../splitting/parts/part-map.js';
import { partition } from '../../splitting/splits/partition.js';
import type { PartitionPlan } from '../../splitting/splits/splitter.js';
import { PART_NAMES, type PartName } from '../../splitting/parts/part-names.js';
import { RESERVE_METHOD, type SplitRows } from '../../splitting/splits/split.js';
import { strataOf } from '../../splitting/algorithms/strata.js';
import type { UsableRows } from '../../splitting/parts/usable.js';

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

/** What releases on the data set say of the rows of a table: 1 for each row that is held out, or given with its target. */
export interface ReservedRows {
  readonly held: Uint8Array;
  readonly given: Uint8Array;
}

/** Whether an exercise on the split could be released at all, said before it is composed. */
function reserveChecks(parts: Int8Array, { held, given }: ReservedRows): Check[] {
  if (!held.includes(1) && !given.includes(1)) return [];
  const rows = (of: (row: number) => boolean) => Array.from(parts.keys()).filter(of).length;
  const reservedGiven = rows((row) => (parts[row] === 0 || parts[row] === 1) && held[row] === 1);
  const known = rows((row) => parts[row] === 2 && given[row] === 1);
  const advice = 'no exercise on this split could be released; split by the reserve instead';
  return [
    reservedGiven === 0
      ? check('reserve', 'holds', 'No row of the reserve is given with its target')
      : check(
          'reserve',
          'fails',
          `${counted(reservedGiven, 'row')} of the reserve would be given with the target: ${advice}`,
          {
            measured: counted(reservedGiven, 'row'),
            expected: 'none',
          },
        ),
    known === 0
      ? check('given-before', 'holds', 'No held-out row was given with its target before')
      : check(
          'given-before',
          'fails',
          `${counted(known, 'held-out row')} of this split ${known === 1 ? 'was' : 'were'} given with the target by an earlier exercise: ${advice}`,
          {
            measured: counted(known, 'row'),
            expected: 'none',
          },
        ),
  ];
}

/** What follows from a split: everything that the desk shows beside the plan. */
export function splitConsequences(
  table: Table,
  roles: Roles,
  used: UsableRows,
  { parts, plan, method }: SplitRows,
  reserve: ReservedRows | null = null,
): SplitConsequences {
  const target = columnNamed(table, roles.target);
  const strata = roles.task === 'regression' ? strataOf(target) : labelsOf(target);
  const options = qualityRoles(roles, plan);
  // Which rows are held out is not for such a plan to choose.
  const reserved = method.startsWith(RESERVE_METHOD);
  const quality = splitQuality(table, { names: PART_NAMES, parts }, { ...options, apart: false });
  const checks = qualityChecks(quality, roles.target, false).map((one) =>
    one.id === 'groups' && one.outcome === 'holds'
      ? { ...one, measured: reserved ? null : wouldPart(table, plan, used, options.group ?? '') }
      : one,
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
    checks: [...checks, ...(reserve ? reserveChecks(parts, reserve) : [])],
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
    ? `a split by rows would split ${crossing === total ? 'all ' : ''}${count(crossing)}`
    : `80 and 20 % drawn by rows would split ${counted(crossing, 'group')}`;
}
