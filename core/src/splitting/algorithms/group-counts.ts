import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { labelsOf, type Labelled } from '../../data/table/labels.js';
import type { Column } from '../../data/table/table.js';

/** The groups among some rows, and how many rows of each class each of them has. */
export interface GroupCounts {
  readonly groups: Labelled;
  /** Codes of the groups that have rows, in label order. */
  readonly present: readonly number[];
  /** For each present group, its rows by class; a missing class is the last one. */
  readonly counts: readonly (readonly number[])[];
}

/** @throws SieveError `missing-group` with the row */
export function countGroups(rows: Int32Array, column: Column, strata: Labelled | null): GroupCounts {
  const groups = labelsOf(column);
  const classes = strata ? strata.labels.length + 1 : 1;
  const flat = new Int32Array(groups.labels.length * classes);
  for (const row of rows) {
    const group = groups.codes[row] ?? 0;
    if (group < 0) {
      throw new SieveError(
        'missing-group',
        `Row ${row + 1} has no ${column.name}, so it belongs to no group.`,
        {
          field: column.name,
        },
      );
    }
    const stratum = strata ? (strata.codes[row] ?? 0) : 0;
    const cell = group * classes + (stratum < 0 ? classes - 1 : stratum);
    flat[cell] = (flat[cell] ?? 0) + 1;
  }
  const all = groups.labels.map((_, g) => Array.from(flat.subarray(g * classes, (g + 1) * classes)));
  const present = all.map((_, g) => g).filter((g) => at(all, g).some((n) => n > 0));
  return { groups, present, counts: present.map((g) => at(all, g)) };
}
