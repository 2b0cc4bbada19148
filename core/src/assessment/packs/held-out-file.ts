import { unzipSync } from 'fflate';
import { readCsv } from '../../data/formats/csv/read.js';
import type { Table } from '../../data/table/table.js';

/** The file of a pack with the features of the held-out rows. */
export const HELD_OUT_FILE = 'held-out.csv';

/**
 * The features of the held-out rows as a pack has them.
 *
 * @param zip the archive
 * @returns null where the pack has none
 */
export function heldOutIn(zip: Uint8Array): Table | null {
  const bytes = unzipSync(zip, { filter: ({ name }) => name === HELD_OUT_FILE })[HELD_OUT_FILE];
  return bytes === undefined ? null : readCsv(bytes, { file: HELD_OUT_FILE }).table;
}
