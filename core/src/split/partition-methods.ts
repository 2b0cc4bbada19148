import { SieveError } from '../errors.js';
import { at, counted } from '../numbers.js';
import { seededRandom } from '../random/random.js';
import { labelsOf } from '../table/labels.js';
import { columnNamed, type Table } from '../table/table.js';
import { splitByKey } from './by-key.js';
import { countGroups } from './group-counts.js';
import { assignGroups } from './grouped.js';
import { splitByColumn, splitEvery, splitInOrder } from './in-order.js';
import type { PartitionPlan } from './partition.js';
import { sharesOf, weightsOf } from './parts.js';
import { LEFT_OUT } from './plan.js';
import { splitAtRandom, splitStratified } from './random.js';
import { strataOf } from './strata.js';
import { pointInTime, splitByTime, timelineOf } from './time.js';

interface Request {
  readonly table: Table;
  readonly plan: PartitionPlan;
  /** The rows to be parted, ascending. */
  readonly rows: Int32Array;
  /** Receives the part of each of them. */
  readonly parts: Int8Array;
}

interface PartitionMethod {
  /** Name and version. */
  readonly id: string;
  /** As it stands after "a split". */
  readonly title: string;
  readonly needs: readonly (keyof PartitionPlan)[];
  readonly assign: (request: Request) => void;
}

export type PartitionMethodName =
  'random' | 'stratified' | 'grouped' | 'stratified-grouped' | 'time' | 'every' | 'first' | 'column' | 'key';

/** Every method of parting rows. The command line and the documentation are driven by this list. */
export const PARTITION_METHODS: Readonly<Record<PartitionMethodName, PartitionMethod>> = {
  random: {
    id: 'random@1',
    title: 'at random',
    needs: [],
    assign: ({ plan, rows, parts }) =>
      splitAtRandom(rows, weightsOf(plan.parts, rows.length), seededRandom(plan.seed), parts),
  },
  stratified: {
    id: 'stratified@1',
    title: 'stratified by a column',
    needs: ['stratify'],
    assign: ({ table, plan, rows, parts }) => {
      const { labels, codes } = strataOf(columnNamed(table, plan.stratify ?? ''));
      const weights = weightsOf(plan.parts, rows.length);
      splitStratified(rows, codes, labels.length, weights, seededRandom(plan.seed), parts);
    },
  },
  grouped: {
    id: 'grouped@1',
    title: 'by groups',
    needs: ['group'],
    assign: (request) => splitGroups(request, null),
  },
  'stratified-grouped': {
    id: 'stratified-grouped@1',
    title: 'stratified and by groups',
    needs: ['stratify', 'group'],
    assign: (request) => splitGroups(request, request.plan.stratify ?? null),
  },
  time: {
    id: 'time@1',
    title: 'by time',
    needs: ['time'],
    assign: ({ table, plan, rows, parts }) => {
      const column = columnNamed(table, plan.time ?? '');
      const timeline = timelineOf(column, rows);
      if (plan.cutOff !== undefined && plan.parts.length !== 2)
        throw new SieveError('split-plan', 'A cut-off makes two parts, no more.', { field: 'cut-off' });
      const cuts = plan.cutOff === undefined ? null : [pointInTime(plan.cutOff, column)];
      splitByTime(rows, timeline, weightsOf(plan.parts, rows.length), cuts, plan.gap ?? 0, parts);
      const empty = plan.parts.find((_, part) => cuts !== null && !rows.some((row) => parts[row] === part));
      if (empty)
        throw new SieveError('too-few-rows', `With the cut-off ${plan.cutOff}, ${empty.name} has no rows.`, {
          field: 'cut-off',
        });
    },
  },
  every: {
    id: 'every@1',
    title: 'by every n-th row',
    needs: ['every'],
    assign: ({ plan, rows, parts }) => {
      const n = plan.every ?? 0;
      if (!Number.isInteger(n) || n < 2 || n > rows.length)
        throw new SieveError('split-plan', `Every n-th row: n is a whole number from 2 to ${rows.length}.`, {
          field: 'every',
        });
      if (plan.parts.length !== 2)
        throw new SieveError('split-plan', 'Every n-th row makes two parts, no more.', { field: 'parts' });
      splitEvery(rows, n, parts);
    },
  },
  first: {
    id: 'first@1',
    title: 'in the order of the rows',
    needs: [],
    assign: ({ plan, rows, parts }) => splitInOrder(rows, weightsOf(plan.parts, rows.length), parts),
  },
  column: {
    id: 'column@1',
    title: 'by the values of a column',
    needs: ['column'],
    assign: ({ table, plan, rows, parts }) => {
      const column = columnNamed(table, plan.column ?? '');
      splitByColumn(rows, column.name, labelsOf(column), plan.parts, parts);
    },
  },
  key: {
    id: 'key@1',
    title: 'by the identifier',
    needs: ['identifier'],
    assign: ({ table, plan, rows, parts }) => {
      const identifier = columnNamed(table, plan.identifier ?? '');
      splitByKey(rows, identifier, plan.salt ?? '', sharesOf(plan.parts, 'by the identifier'), parts);
    },
  },
};

function splitGroups({ table, plan, rows, parts }: Request, stratify: string | null): void {
  const column = columnNamed(table, plan.group ?? '');
  const strata = stratify === null ? null : strataOf(columnNamed(table, stratify));
  const { groups, present, counts } = countGroups(rows, column, strata);
  const weights = weightsOf(plan.parts, rows.length);
  const wanted = weights.filter((weight) => weight > 0).length;
  if (present.length < wanted) {
    throw new SieveError(
      'too-few-groups',
      `${counted(present.length, 'group')} of ${column.name} cannot make ${wanted} parts without being parted.`,
      { field: column.name },
    );
  }
  const assigned = assignGroups(counts, weights, seededRandom(plan.seed));
  const partOf = new Int8Array(groups.labels.length).fill(LEFT_OUT);
  present.forEach((g, i) => {
    partOf[g] = at(assigned, i);
  });
  for (const row of rows) parts[row] = at(partOf, at(groups.codes, row));
}
