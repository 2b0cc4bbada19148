import { SieveError } from '../../../foundation/errors.js';
import { counted } from '../../../foundation/numbers.js';
import { openDelimited } from '../../../data/formats/csv/records.js';
import type { NamedRows } from '../../files/rows-file.js';
import { eachRecord } from '../../files/record.js';
import { fileSlip, type FileSlip } from '../../slips/contract/file-slip.js';

/** A file of parts or folds that fails its checks: what stands beside each identifier. */
export interface UnreadRows {
  readonly cellsOf: ReadonlyMap<string, readonly string[]>;
  readonly identifiers: readonly string[];
}

/** @param cell the column of parts or folds; null where there is no such file */
export function rowCells(bytes: Uint8Array, file: string, named: NamedRows, cell: string): UnreadRows | null {
  try {
    const source = openDelimited(bytes, file);
    const [id = -1, column = -1] = [named.identifier, cell].map((name) => source.header.indexOf(name));
    if (id < 0 || column < 0) return null;
    const cellsOf = new Map<string, string[]>();
    eachRecord(source, (record) => {
      const name = record.text(id);
      const cell = record.text(column).trim().toLowerCase();
      const own = cellsOf.get(name);
      if (own) own.push(cell);
      else cellsOf.set(name, [cell]);
    });
    return { cellsOf, identifiers: named.identifiers };
  } catch (error) {
    if (error instanceof SieveError) return null;
    throw error;
  }
}

/** Rows that are in several parts, by whether the training part is one of them. */
function several({ cellsOf }: UnreadRows) {
  const found = [...cellsOf.values()].filter((cells) => new Set(cells).size > 1);
  const withTraining = found.filter((cells) => cells.includes('training')).length;
  return { withTraining, without: found.length - withTraining };
}

export const UNREAD_SPLIT_SLIPS: readonly FileSlip<UnreadRows>[] = [
  fileSlip({
    id: 'overlap',
    title: 'parts overlap',
    from: 'form',
    says: 'Some rows are in the training part and in another.',
    remedy:
      'Take the rows of a part away before you draw the next. A row on which a model was trained says nothing of rows that it has not seen.',
    example: 'Two samples drawn from the same table share rows.',
    test(file) {
      const { withTraining } = several(file);
      return withTraining > 1 ? `${counted(withTraining, 'row')} in training and in another part` : null;
    },
  }),
  fileSlip({
    id: 'held-out-used-twice',
    title: 'held-out rows used twice',
    from: 'form',
    says: 'The same rows are for validation and for testing.',
    remedy: 'Choose on one part and judge on another. A figure on the rows by which you chose is too good.',
    example: 'One part of 20 % named twice: the depth is chosen on it, and then judged on it.',
    test(file) {
      const { without } = several(file);
      return without > 1 ? `${counted(without, 'row')} in validation and in test` : null;
    },
  }),
];

/** Share of the rows that drawing with replacement leaves out is 1/e; about so much must be missing, and some rows be there twice. */
const LEAST_MISSING = 0.15;

export const UNREAD_FOLDS_SLIPS: readonly FileSlip<UnreadRows>[] = [
  fileSlip({
    id: 'with-replacement',
    title: 'drawn with replacement',
    from: 'form',
    says: 'Some rows are there several times and others not at all, as where rows are drawn with replacement.',
    remedy:
      'Folds are a partition: every row is in one of them. Drawing with replacement belongs to the bootstrap.',
    example: 'Of 100 rows drawn with replacement about 63 different ones come up.',
    test({ cellsOf, identifiers }) {
      const repeated = [...cellsOf.values()].filter((cells) => cells.length > 1).length;
      const missing = identifiers.filter((id) => !cellsOf.has(id)).length;
      return repeated > 1 &&
        missing >= LEAST_MISSING * identifiers.length &&
        repeated >= (LEAST_MISSING * identifiers.length) / 2
        ? `${counted(repeated, 'row')} several times, ${counted(missing, 'row')} not at all`
        : null;
    },
  }),
];
