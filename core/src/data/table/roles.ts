import { SieveError } from '../../foundation/errors.js';
import { labelsOf } from './labels.js';
import { isCoded, noSuchColumn, type Column, type Table } from './table.js';

/** As much of a column as its role depends on. */
type ColumnInfo = Pick<Column, 'name' | 'kind'>;

export const TASKS = ['binary', 'multiclass', 'regression'] as const;
export type Task = (typeof TASKS)[number];

/** What the columns of a table are for. */
export interface Roles {
  readonly target: string;
  readonly task: Task;
  /** The label whose probability is asked for; null unless the task is binary. */
  readonly positive: string | null;
  /** Names each row; null where rows get numbers of their own when a pack is made. */
  readonly identifier: string | null;
  readonly group: string | null;
  /** In whose order time runs. */
  readonly time: string | null;
  /** How much each row counts while a model learns. It is no feature. */
  readonly weight: string | null;
  /** Known only after the outcome, or otherwise not for students. */
  readonly withheld: readonly string[];
}

/** The most classes a target may have. */
const MOST_CLASSES = 100;

/** The task that a column suggests as a target: two labels binary, other texts multi-class, else regression. */
export function suggestTask(target: Column): Task {
  if (labelsOf(target).labels.length === 2) return 'binary';
  return isCoded(target) ? 'multiclass' : 'regression';
}

/**
 * Makes sure that roles fit a table. Of the table itself only the target's cells are looked at.
 *
 * @param columns all columns
 * @param target the column that the roles name as the target
 * @throws SieveError `roles` with the role that does not fit, `no-such-column`
 */
export function checkRoles(columns: readonly ColumnInfo[], target: Column, roles: Roles): void {
  const fail = (field: string, message: string) => {
    throw new SieveError('roles', message, { field });
  };
  const kinds = new Map(columns.map(({ name, kind }) => [name, kind]));
  const named = [roles.identifier, roles.group, roles.time, roles.weight].filter((name) => name !== null);
  for (const name of [...named, ...roles.withheld]) {
    if (!kinds.has(name)) throw noSuchColumn(name);
    if (name === roles.target) fail('target', `${name} is the target and cannot be anything else as well.`);
  }
  if (roles.time !== null && !['time', 'number'].includes(kinds.get(roles.time) ?? ''))
    fail('time', `${roles.time} holds neither dates nor numbers, so time cannot run in its order.`);
  if (roles.weight !== null && kinds.get(roles.weight) !== 'number')
    fail('weight', `${roles.weight} holds no numbers, so it cannot weigh rows.`);
  if (roles.weight !== null && [roles.identifier, roles.group, roles.time].includes(roles.weight))
    fail('weight', `${roles.weight} weighs the rows and cannot be anything else as well.`);
  if (roles.identifier !== null && roles.identifier === roles.group) {
    fail('group', `${roles.identifier} names single rows, so it cannot group them.`);
  }
  if (roles.identifier !== null && roles.withheld.includes(roles.identifier)) {
    fail('withheld', `${roles.identifier} names the rows, so students need it.`);
  }
  if (roles.task === 'regression') {
    if (target.kind !== 'number')
      fail('task', `${roles.target} is not a column of numbers: it cannot be predicted as a number.`);
    if (roles.positive !== null) fail('positive', 'A number has no positive class.');
    return;
  }
  const { labels } = labelsOf(target);
  if (labels.length < 2) fail('target', `${roles.target} has fewer than two classes.`);
  if (labels.length > MOST_CLASSES) {
    fail(
      'task',
      `${roles.target} has ${labels.length} distinct values; a target has at most ${MOST_CLASSES} classes.`,
    );
  }
  if (roles.task === 'binary') {
    if (labels.length !== 2) fail('task', `${roles.target} has ${labels.length} classes, not two.`);
    if (roles.positive === null || !labels.includes(roles.positive)) {
      fail('positive', `The positive class is one of ${labels.map((label) => `“${label}”`).join(' and ')}.`);
    }
  } else if (roles.positive !== null) {
    fail('positive', 'Only a target with two classes has a positive one.');
  }
}

/** The columns that students get to predict from. */
export function featuresOf<C extends { readonly name: string }>(
  { columns }: { readonly columns: readonly C[] },
  roles: Pick<Roles, 'target' | 'identifier' | 'weight' | 'withheld'>,
): C[] {
  const not = new Set([roles.target, roles.identifier, roles.weight, ...roles.withheld]);
  return columns.filter((column) => !not.has(column.name));
}

/** Roles on another version of a table: those whose columns are still there; null where the target no longer fits. */
export function rolesAfter(table: Table, roles: Roles): Roles | null {
  const names = table.columns.map((column) => column.name);
  const target = table.columns.find((column) => column.name === roles.target);
  const there = (name: string | null) => (name !== null && names.includes(name) ? name : null);
  if (!target) return null;
  const next = {
    ...roles,
    identifier: there(roles.identifier),
    group: there(roles.group),
    time: there(roles.time),
    weight: there(roles.weight),
    withheld: roles.withheld.filter((name) => names.includes(name)),
  };
  try {
    checkRoles(table.columns, target, next);
    return next;
  } catch (error) {
    if (error instanceof SieveError) return null;
    throw error;
  }
}
