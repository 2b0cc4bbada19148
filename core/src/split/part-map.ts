import { at } from '../numbers.js';
import { labelsOf, type Labelled } from '../table/labels.js';
import { columnNamed, type Table } from '../table/table.js';
import { PART_NAMES, type PartName } from './plan.js';

/** One stack of tiles of the part map: rows of one group (or of all) with one label in one part. */
export interface MapCell {
  readonly stack: string;
  readonly label: string;
  readonly part: PartName;
  readonly rows: number;
}

const MOST_STACKS = 60;

/** How many rows of each group and label stand in each part; by label alone where there are no groups, or too many to draw. */
export function partMap(table: Table, group: string | null, strata: Labelled, parts: Int8Array): MapCell[] {
  const groups = group === null ? null : labelsOf(columnNamed(table, group));
  const byGroup = groups !== null && groups.labels.length <= MOST_STACKS ? groups : null;
  const cells = new Map<string, { stack: string; label: string; part: PartName; rows: number }>();
  parts.forEach((part, row) => {
    const name = PART_NAMES[part];
    const label = strata.labels[at(strata.codes, row)];
    if (name === undefined || label === undefined) return;
    const stack = byGroup ? (byGroup.labels[at(byGroup.codes, row)] ?? '') : label;
    const key = JSON.stringify([stack, label, name]);
    const cell = cells.get(key);
    if (cell) cell.rows++;
    else cells.set(key, { stack, label, part: name, rows: 1 });
  });
  const stacks = new Map((byGroup ?? strata).labels.map((label, i) => [label, i]));
  const order = (cell: MapCell) => stacks.get(cell.stack) ?? 0;
  return [...cells.values()].sort(
    (a, b) =>
      order(a) - order(b) ||
      PART_NAMES.indexOf(a.part) - PART_NAMES.indexOf(b.part) ||
      strata.labels.indexOf(b.label) - strata.labels.indexOf(a.label),
  );
}
