import { SieveError } from '../errors.js';
import { checkPlanned } from '../sentence/sentence.js';
import type { Table } from '../table/table.js';
import { partition, type PartitionPlan } from './partition.js';
import { LEFT_OUT, PART_NAMES, type PartName } from './plan.js';
import { splitKindOf, type SplitPlan } from './split-kinds.js';

/** The rows of a table, parted by the plan of an exercise. */
export interface SplitRows {
  /** Algorithm and version: what a plan gives never changes under the same name. */
  readonly method: string;
  /** For each row the index of its part in `PART_NAMES`, or −1 where it is left out. */
  readonly parts: Int8Array;
  /** What the plan asked `partition` for. */
  readonly plan: PartitionPlan;
}

/** Parts without which there is no exercise. */
const NEEDED: readonly PartName[] = ['training', 'heldout'];

/**
 * Parts the rows of a table by the plan of an exercise.
 *
 * @param usable 1 for each row that takes part, 0 for one that is left out; all rows where omitted
 * @throws SieveError `plan-kind`, `plan-value`, `empty-part`, and as `partition`
 */
export function splitRows(table: Table, plan: SplitPlan, usable?: Uint8Array): SplitRows {
  const kind = splitKindOf(plan);
  checkPlanned(kind, plan, table.columns);
  const asked = kind.ask(table, plan.values);
  const { method, parts } = partition(asked.table, asked.plan, usable);
  const codes = asked.parts.map((name) => PART_NAMES.indexOf(name));
  const found = parts.map((part) => (part < 0 ? LEFT_OUT : (codes[part] ?? LEFT_OUT)));
  for (const name of NEEDED) {
    if (!found.includes(PART_NAMES.indexOf(name)))
      throw new SieveError(
        'empty-part',
        `No row would be ${name === 'heldout' ? 'held out' : 'left for training'}.`,
      );
  }
  return { method, parts: found, plan: asked.plan };
}
