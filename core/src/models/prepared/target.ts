import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { labelsOf } from '../../data/table/labels.js';
import type { Roles } from '../../data/table/roles.js';
import { columnNamed, type Table } from '../../data/table/table.js';

/** Classes of n rows; every code points into `labels`. */
export interface ClassTarget {
  readonly kind: 'classes';
  readonly labels: readonly string[];
  readonly codes: Int32Array;
  /** Of a binary task; null for more classes. */
  readonly positive: number | null;
}

/** Numbers of n rows. */
export interface NumberTarget {
  readonly kind: 'numbers';
  readonly values: Float64Array;
}

export type Target = ClassTarget | NumberTarget;

/** What is to be predicted, of which column, as what. */
export type TargetRoles = Pick<Roles, 'target' | 'task' | 'positive'>;

/**
 * The target of all rows of a table. A row without a label has code −1, or NaN.
 *
 * @throws SieveError `no-such-column`, `target` where it holds no numbers for a task of numbers
 */
export function targetOf(table: Table, { target, task, positive }: TargetRoles): Target {
  const column = columnNamed(table, target);
  if (task === 'regression') {
    if (column.kind !== 'number')
      throw new SieveError('target', `${target} holds no numbers: it cannot be predicted as a number.`, {
        field: target,
      });
    return { kind: 'numbers', values: column.values };
  }
  const { labels, codes } = labelsOf(column);
  const place = labels.indexOf(positive ?? labels.at(-1) ?? '');
  return { kind: 'classes', labels, codes, positive: task === 'binary' ? place : null };
}

/** The target of the given rows, in their order. */
export function targetRows(target: Target, rows: Int32Array): Target {
  if (target.kind === 'classes') return { ...target, codes: rows.map((row) => at(target.codes, row)) };
  const values = new Float64Array(rows.length);
  for (let i = 0; i < rows.length; i++) values[i] = target.values[rows[i] ?? 0] ?? NaN;
  return { kind: 'numbers', values };
}

/** How many rows of each class, or the sums of their weights. */
export function classWeights({ labels, codes }: ClassTarget, weights: Float64Array | null): Float64Array {
  const sums = new Float64Array(labels.length);
  for (let i = 0; i < codes.length; i++) {
    const code = codes[i] ?? 0;
    sums[code] = (sums[code] ?? 0) + (weights ? (weights[i] ?? 0) : 1);
  }
  return sums;
}

/** A target of two classes as 1 for the positive and 0 for the other. */
export const asNumbers = (target: Target): Float64Array =>
  target.kind === 'numbers'
    ? target.values
    : Float64Array.from(target.codes, (code) => (code === target.positive ? 1 : 0));
