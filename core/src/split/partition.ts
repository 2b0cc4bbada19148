import { SieveError } from '../errors.js';
import { counted, indices } from '../numbers.js';
import { columnNamed, isMissing, type Table } from '../table/table.js';
import { PARTITION_METHODS, type PartitionMethodName } from './partition-methods.js';
import { checkParts, type PartSize } from './parts.js';
import { LARGEST_SEED, LEFT_OUT } from './plan.js';

/** How the rows of a table are to be parted. Settings that the method does not use are left out. */
export interface PartitionPlan {
  readonly method: PartitionMethodName;
  readonly parts: readonly PartSize[];
  readonly seed: number;
  /** Column whose values get equal shares in every part; one of many numbers is cut at its fifths. */
  readonly stratify?: string;
  /** Column whose values are never parted. */
  readonly group?: string;
  /** Column in whose order the parts follow one another. */
  readonly time?: string;
  /** First point in time of the last of two parts. */
  readonly cutOff?: string;
  /** Time left out before each later part: days for dates, units of the column for numbers. */
  readonly gap?: number;
  /** Each how many rows one goes to the second part. */
  readonly every?: number;
  /** Column whose values are the names of the parts. */
  readonly column?: string;
  readonly identifier?: string;
  /** Text that goes into the hash of each identifier. */
  readonly salt?: string;
  /** A further part for rows without a value in `target`: they are to be predicted, not scored. */
  readonly unlabelled?: { readonly name: string; readonly target: string };
}

/** Which part each row is in. */
export interface Partition {
  /** Algorithm and version: what a plan gives never changes under the same name. */
  readonly method: string;
  readonly names: readonly string[];
  /** For each row of the table the index of its part in `names`, or −1 where it is left out. */
  readonly parts: Int8Array;
}

/**
 * Parts the rows of a table by a plan.
 *
 * @param usable 1 for each row that takes part, 0 for one that is left out; all rows where omitted
 * @throws SieveError `split-plan`, `split-parts`, `no-such-column`, `too-few-rows`, `too-few-groups`, `too-few-times`,
 * `missing-group`, `missing-time`, `missing-part`, `identifier-missing`
 */
export function partition(table: Table, plan: PartitionPlan, usable?: Uint8Array): Partition {
  checkParts(plan.parts);
  const method = PARTITION_METHODS[plan.method];
  for (const setting of method.needs) {
    if (plan[setting] === undefined)
      throw new SieveError('split-plan', `A split ${method.title} needs ${setting}.`, { field: setting });
  }
  if (!Number.isInteger(plan.seed) || plan.seed < 0 || plan.seed > LARGEST_SEED)
    throw new SieveError('split-plan', `A seed is a whole number from 0 to ${LARGEST_SEED}.`, {
      field: 'seed',
    });
  if (plan.gap !== undefined && !(plan.gap >= 0 && Number.isFinite(plan.gap)))
    throw new SieveError('split-plan', 'A gap is a number, 0 or more.', { field: 'gap' });
  const parts = new Int8Array(table.rowCount).fill(LEFT_OUT);
  const names = plan.parts.map((part) => part.name);
  let rows = indices(table.rowCount).filter((row) => usable?.[row] !== 0);
  if (plan.unlabelled) {
    const { name, target } = plan.unlabelled;
    if (names.includes(name))
      throw new SieveError('split-parts', `Two parts are called “${name}”.`, { field: 'parts' });
    const column = columnNamed(table, target);
    for (const row of rows) if (isMissing(column, row)) parts[row] = names.length;
    rows = rows.filter((row) => parts[row] === LEFT_OUT);
    names.push(name);
  }
  const wanted = plan.parts.filter(
    (part) => 'rest' in part || ('rows' in part ? part.rows > 0 : part.share > 0),
  ).length;
  if (rows.length < wanted)
    throw new SieveError('too-few-rows', `${counted(rows.length, 'row')} cannot make ${wanted} parts.`);
  method.assign({ table, plan, rows, parts });
  return { method: method.id, names, parts };
}
