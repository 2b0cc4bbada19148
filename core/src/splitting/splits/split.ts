import { SieveError } from '../../foundation/errors.js';
import { checkPlanned } from '../../data/sentence/sentence.js';
import type { Table } from '../../data/table/table.js';
import { partition } from './partition.js';
import type { PartitionPlan, SplitPlan } from './splitter.js';
import { distinctRows } from '../parts/repeated-rows.js';
import { LEFT_OUT, PART_NAMES, type PartName } from '../parts/part-names.js';
import { splitterOf } from './registry.js';

/** The rows of a table, split by the plan of an exercise. */
export interface SplitRows {
  /** Algorithm and version: what a plan gives never changes under the same name. */
  readonly method: string;
  /** For each row the index of its part in `PART_NAMES`, or −1 where it is left out. */
  readonly parts: Int8Array;
  /** What the plan asked `partition` for. */
  readonly plan: PartitionPlan;
}

/** Under which name plans that hold the reserve out give their method. */
export const RESERVE_METHOD = 'reserve@1';

/** Parts without which there is no exercise. */
const NEEDED: readonly PartName[] = ['training', 'heldout'];

/**
 * Parts the rows of a table by the plan of an exercise.
 *
 * @param usable 1 for each row that takes part, 0 for one that is left out; all rows where omitted
 * @param reserve 1 for each row of the data set's reserve; needed by plans that hold the reserve out
 * @throws SieveError `plan-kind`, `plan-value`, `empty-part`, `no-reserve`, and as `partition`
 */
export function splitRows(
  table: Table,
  plan: SplitPlan,
  usable?: Uint8Array,
  reserve?: Uint8Array | null,
): SplitRows {
  const kind = splitterOf(plan);
  checkPlanned(kind, plan, table.columns);
  const asked = kind.ask(table, plan.values);
  const held = kind.holdsOut === 'reserve' ? reserveRows(table, asked.plan, reserve, usable) : null;
  const { method, parts } = partition(asked.table, asked.plan, held ? held.others : usable);
  const codes = asked.parts.map((name) => PART_NAMES.indexOf(name));
  const found = parts.map((part, row) =>
    held?.isHeldOut(row) === true
      ? PART_NAMES.indexOf('heldout')
      : part < 0
        ? LEFT_OUT
        : (codes[part] ?? LEFT_OUT),
  );
  for (const name of NEEDED) {
    if (!found.includes(PART_NAMES.indexOf(name)))
      throw new SieveError(
        'empty-part',
        `No row would be ${name === 'heldout' ? 'held out' : 'left for training'}.`,
      );
  }
  return { method: held ? `${RESERVE_METHOD}+${method}` : method, parts: found, plan: asked.plan };
}

/**
 * The usable rows of the reserve, and the other usable rows. Where repeated rows are kept together, they are held out
 * with a row of the reserve.
 *
 * @throws SieveError `no-reserve`
 */
function reserveRows(
  table: Table,
  { repeatedRows }: PartitionPlan,
  reserve: Uint8Array | null | undefined,
  usable: Uint8Array | undefined,
): { isHeldOut: (row: number) => boolean; others: Uint8Array } {
  if (reserve?.includes(1) !== true)
    throw new SieveError(
      'no-reserve',
      'This data set has no reserve yet: no exercise on it was released. Choose another way of splitting.',
      { field: 'kind' },
    );
  const first = repeatedRows === 'together' ? distinctRows(table, usable).first : null;
  const unit = (row: number) => first?.[row] ?? row;
  const held = new Uint8Array(table.rowCount);
  reserve.forEach((one, row) => {
    if (one === 1 && unit(row) >= 0) held[unit(row)] = 1;
  });
  const isUsable = (row: number) => usable === undefined || usable[row] === 1;
  const isHeldOut = (row: number) => isUsable(row) && held[unit(row)] === 1;
  return {
    isHeldOut,
    others: Uint8Array.from({ length: table.rowCount }, (_, row) =>
      isUsable(row) && !isHeldOut(row) ? 1 : 0,
    ),
  };
}
