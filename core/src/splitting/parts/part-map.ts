import { at } from '../../foundation/numbers.js';
import { labelsOf, type Labelled } from '../../data/table/labels.js';
import { columnNamed, type Table } from '../../data/table/table.js';
import { PART_NAMES, type PartName } from './part-names.js';

/** One stack of tiles of the part map: rows of one group (or of all) with one label in one part. */
export interface MapCell {
  readonly stack: string;
  readonly label: string;
  readonly part: PartName;
  readonly rows: number;
}

const MOST_STACKS = 60;

/** The stacks of a map: the groups, or the labels where there are no groups, or too many to draw. */
export function stacksOf(table: Table, group: string | null, strata: Labelled): Labelled {
  const groups = group === null ? null : labelsOf(columnNamed(table, group));
  return groups !== null && groups.labels.length <= MOST_STACKS ? groups : strata;
}

/** How many rows of each stack and label stand in each part. */
export function partMap(table: Table, group: string | null, strata: Labelled, parts: Int8Array): MapCell[] {
  const stacks = stacksOf(table, group, strata);
  const [labels, places] = [strata.labels.length, PART_NAMES.length];
  const counts = new Int32Array(stacks.labels.length * labels * places);
  for (let row = 0; row < parts.length; row++) {
    const [part, stack, label] = [parts[row] ?? 0, stacks.codes[row] ?? 0, strata.codes[row] ?? 0];
    if (part < 0 || stack < 0 || label < 0) continue;
    const cell = (stack * places + part) * labels + label;
    counts[cell] = (counts[cell] ?? 0) + 1;
  }
  const cells: MapCell[] = [];
  stacks.labels.forEach((stack, s) => {
    PART_NAMES.forEach((part, p) => {
      for (let label = labels - 1; label >= 0; label--) {
        const rows = at(counts, (s * places + p) * labels + label);
        if (rows > 0) cells.push({ stack, label: at(strata.labels, label), part, rows });
      }
    });
  });
  return cells;
}
