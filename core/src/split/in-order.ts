import { SieveError } from '../errors.js';
import { at } from '../numbers.js';
import type { Labelled } from '../table/labels.js';
import { apportion } from './apportion.js';
import type { PartSize } from './parts.js';

/** first@1: the parts in the order of the rows, at their apportioned sizes. */
export function splitInOrder(rows: Int32Array, weights: readonly number[], parts: Int8Array): void {
  let position = 0;
  apportion(rows.length, weights).forEach((size, part) => {
    for (let i = 0; i < size; i++) parts[at(rows, position++)] = part;
  });
}

/** every@1: each n-th row to the second part, all others to the first. @param n at least 2 */
export function splitEvery(rows: Int32Array, n: number, parts: Int8Array): void {
  rows.forEach((row, position) => {
    parts[row] = (position + 1) % n === 0 ? 1 : 0;
  });
}

/**
 * column@1: a row goes to the part that is called like its value.
 *
 * @throws SieveError `unknown-part` for a value that names no part, `missing-part` for a row without a value
 */
export function splitByColumn(
  rows: Int32Array,
  name: string,
  values: Labelled,
  sizes: readonly PartSize[],
  parts: Int8Array,
): void {
  const partOf = values.labels.map((label) => sizes.findIndex((part) => part.name === label));
  for (const row of rows) {
    const code = at(values.codes, row);
    if (code < 0)
      throw new SieveError('missing-part', `Row ${row + 1} has no ${name}, so it belongs to no part.`, {
        field: name,
      });
    const part = at(partOf, code);
    if (part < 0)
      throw new SieveError(
        'unknown-part',
        `Row ${row + 1}: ${name} “${values.labels[code]}” is the name of no part.`,
        {
          field: name,
        },
      );
    parts[row] = part;
  }
}
