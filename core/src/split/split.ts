import { SieveError } from '../errors.js';
import { at, counted, quantile } from '../numbers.js';
import { seededRandom, type Random } from '../random/random.js';
import { labelsOf, type Labelled } from '../table/labels.js';
import { columnNamed, isCoded, type Column, type Table } from '../table/table.js';
import { assignGroups } from './grouped.js';
import { checkPlan, LEFT_OUT, PART_NAMES, type PartCode, type SplitPlan } from './plan.js';
import { splitAtRandom, splitStratified } from './random.js';

/** A numeric column with more distinct values than this is stratified by quantile bins, not by value. */
const MOST_NUMERIC_CLASSES = 12;
const QUANTILE_BINS = 5;

/**
 * Parts the rows of a table by a plan.
 *
 * @param usable 1 for each row that takes part, 0 for one that is left out; all rows where omitted
 * @returns for each row the index of its part in `PART_NAMES`, or −1 where it is left out
 * @throws SieveError `split-plan`, `no-such-column`, `too-few-rows`, `too-few-groups`, `missing-group`
 */
export function splitRows(table: Table, plan: SplitPlan, usable?: Uint8Array): Int8Array {
  checkPlan(plan);
  const rows = Int32Array.from({ length: table.rowCount }, (_, row) => row).filter(
    (row) => usable?.[row] !== 0,
  );
  const shares = PART_NAMES.map((part) => plan.shares[part]);
  const wanted = shares.filter((share) => share > 0).length;
  if (rows.length < wanted) {
    throw new SieveError('too-few-rows', `${counted(rows.length, 'row')} cannot make ${wanted} parts.`);
  }
  const parts = new Int8Array(table.rowCount).fill(LEFT_OUT);
  const random = seededRandom(plan.seed);
  const strata = plan.stratify === null ? null : strataOf(columnNamed(table, plan.stratify));
  if (plan.group !== null) {
    splitByGroup(rows, columnNamed(table, plan.group), strata, shares, random, parts);
  } else if (strata) {
    splitStratified(rows, strata.codes, strata.labels.length, shares, random, parts);
  } else {
    splitAtRandom(rows, shares, random, parts);
  }
  return parts;
}

/** The classes by which a column stratifies: its labels, or five quantile bins of a column of many numbers. */
export function strataOf(column: Column): Labelled {
  const labelled = labelsOf(column);
  if (isCoded(column) || labelled.labels.length <= MOST_NUMERIC_CLASSES) return labelled;
  const sorted = column.values.filter((value) => !Number.isNaN(value)).sort();
  const cuts = Array.from({ length: QUANTILE_BINS - 1 }, (_, i) => quantile(sorted, (i + 1) / QUANTILE_BINS));
  return {
    labels: Array.from({ length: QUANTILE_BINS }, (_, i) => `fifth ${i + 1}`),
    codes: Int32Array.from(column.values, (value) =>
      Number.isNaN(value) ? -1 : cuts.filter((cut) => value > cut).length,
    ),
  };
}

function splitByGroup(
  rows: Int32Array,
  column: Column,
  strata: Labelled | null,
  shares: readonly number[],
  random: Random,
  parts: Int8Array,
): void {
  const groups = labelsOf(column);
  const classCount = strata ? strata.labels.length + 1 : 1;
  const counts = groups.labels.map(() => new Array<number>(classCount).fill(0));
  for (const row of rows) {
    const group = counts[at(groups.codes, row)];
    if (!group) {
      throw new SieveError(
        'missing-group',
        `Row ${row + 1} has no ${column.name}, so it belongs to no group.`,
        {
          field: column.name,
        },
      );
    }
    const stratum = strata ? at(strata.codes, row) : 0;
    const c = stratum < 0 ? classCount - 1 : stratum;
    group[c] = at(group, c) + 1;
  }
  const present = counts.map((_, g) => g).filter((g) => at(counts, g).some((n) => n > 0));
  const wanted = shares.filter((share) => share > 0).length;
  if (present.length < wanted) {
    throw new SieveError(
      'too-few-groups',
      `${counted(present.length, 'group')} of ${column.name} cannot make ${wanted} parts without being parted.`,
      { field: column.name },
    );
  }
  const assigned = assignGroups(
    present.map((g) => at(counts, g)),
    shares,
    random,
  );
  const partOf = new Map(present.map((g, i) => [g, at(assigned, i)]));
  for (const row of rows) parts[row] = partOf.get(at(groups.codes, row)) ?? LEFT_OUT;
}

/** The rows of one part, ascending. */
export function rowsOfPart(parts: Int8Array, part: PartCode): Int32Array {
  return Int32Array.from(parts.keys()).filter((row) => parts[row] === part);
}
