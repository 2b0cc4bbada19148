import type { Roles, Table } from '@modest-sieve/core/data';
import {
  distinctRows,
  foldPlanOf,
  usableRows,
  type FoldPlan,
  type FoldSentence,
} from '@modest-sieve/core/splitting';

/** Rows that are assigned to folds, and how. */
export interface RowsForFolds {
  readonly asked: FoldPlan;
  /** 1 for each row that takes part: repeated ones that the plan drops do not. */
  readonly usable: Uint8Array;
}

/**
 * The rows that a plan assigns to folds: the training rows of a split, or all that can take part where there is none.
 *
 * @param parts of the split, −1 and 0 to 2; null where there is none
 * @throws SieveError as `foldPlanOf` and `usableRows`
 */
export function rowsForFolds(
  table: Table,
  roles: Roles,
  parts: Int8Array | null,
  folds: FoldSentence,
): RowsForFolds {
  const asked = foldPlanOf(folds, table.columns);
  if (!parts) return { asked, usable: usableRows(table, roles, asked.repeatedRows).usable };
  const training = Uint8Array.from(parts, (part) => (part === 0 ? 1 : 0));
  return { asked, usable: asked.repeatedRows === 'drop' ? distinctRows(table, training).usable : training };
}
