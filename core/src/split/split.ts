import type { Table } from '../table/table.js';
import { partition, type PartitionPlan } from './partition.js';
import { PARTITION_METHODS, type PartitionMethodName } from './partition-methods.js';
import { checkPlan, PART_NAMES, type PartCode, type SplitPlan } from './plan.js';

/**
 * Parts the rows of a table by the plan of an exercise.
 *
 * @param usable 1 for each row that takes part, 0 for one that is left out; all rows where omitted
 * @returns for each row the index of its part in `PART_NAMES`, or −1 where it is left out
 * @throws SieveError as `checkPlan` and `partition`
 */
export function splitRows(table: Table, plan: SplitPlan, usable?: Uint8Array): Int8Array {
  checkPlan(plan);
  return partition(table, partitionPlanOf(plan), usable).parts;
}

function partitionPlanOf(plan: SplitPlan): PartitionPlan {
  return {
    method: methodNameOf(plan),
    parts: PART_NAMES.map((name) => ({ name, share: plan.shares[name] / 100 })),
    seed: plan.seed,
    ...(plan.stratify === null ? {} : { stratify: plan.stratify }),
    ...(plan.group === null ? {} : { group: plan.group }),
  };
}

function methodNameOf(plan: SplitPlan): PartitionMethodName {
  if (plan.group !== null) return plan.stratify === null ? 'grouped' : 'stratified-grouped';
  return plan.stratify === null ? 'random' : 'stratified';
}

/** Algorithm and version of the method that a plan calls for. */
export const methodOf = (plan: SplitPlan): string => PARTITION_METHODS[methodNameOf(plan)].id;

/** The rows of one part, ascending. */
export function rowsOfPart(parts: Int8Array, part: PartCode): Int32Array {
  return Int32Array.from(parts.keys()).filter((row) => parts[row] === part);
}
