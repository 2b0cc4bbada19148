import { SieveError } from '../../foundation/errors.js';
import { at, counted, indices } from '../../foundation/numbers.js';
import { columnNamed, isMissing, type Table } from '../../data/table/table.js';
import { SPLIT_METHODS } from './registry.js';
import type { PartitionPlan } from './splitter.js';
import { checkParts } from '../parts/parts.js';
import { LARGEST_SEED } from '../../foundation/random/random.js';
import { distinctRows } from '../parts/repeated-rows.js';
import { LEFT_OUT } from '../parts/part-names.js';

/** Which part each row is in. */
export interface Partition {
  /** Algorithm and version: what a plan gives never changes under the same name. */
  readonly method: string;
  readonly names: readonly string[];
  /** For each row of the table the index of its part in `names`, or −1 where it is left out. */
  readonly parts: Int8Array;
}

/** Whether repeated rows are rows like any other. */
const keepsAll = ({ repeatedRows = 'keep' }: PartitionPlan): boolean => repeatedRows === 'keep';

/**
 * Splits the rows of a table by a plan.
 *
 * @param usable 1 for each row that takes part, 0 for one that is left out; all rows where omitted
 * @throws SieveError `split-plan`, `split-parts`, `no-such-column`, `too-few-rows`, `too-few-groups`, `too-few-times`,
 * `missing-group`, `missing-time`, `missing-part`, `identifier-missing`
 */
export function partition(table: Table, plan: PartitionPlan, usable?: Uint8Array): Partition {
  checkParts(plan.parts);
  const method = SPLIT_METHODS.find(({ name }) => name === plan.method);
  if (!method)
    throw new SieveError('split-plan', `There is no method “${plan.method}”.`, { field: 'method' });
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
  const distinct = keepsAll(plan) ? null : distinctRows(table, usable);
  const taking = distinct?.usable ?? usable;
  const parts = new Int8Array(table.rowCount).fill(LEFT_OUT);
  const names = plan.parts.map((part) => part.name);
  let rows = indices(table.rowCount).filter((row) => taking?.[row] !== 0);
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
  if (distinct && plan.repeatedRows === 'together')
    distinct.first.forEach((first, row) => {
      if (first >= 0) parts[row] = at(parts, first);
    });
  return { method: method.id, names, parts };
}
