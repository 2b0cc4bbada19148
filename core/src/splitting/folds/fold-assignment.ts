import { assignmentCsv, type RowNames } from '../../data/formats/assignment.js';
import type { Folds } from './fold-splitter.js';

/** Folds as they are kept: plain arrays, one for each repeat. */
export interface FoldAssignment {
  /** Algorithm and version. */
  readonly method: string;
  /** Folds in each repeat. */
  readonly count: number;
  /** The fold from 0 in which each row is tested, −1 for a row that never is. */
  readonly tests: readonly Int32Array[];
  /** How often the bootstrap drew each row; null for other methods. */
  readonly drawn: readonly Int32Array[] | null;
}

export function assignmentOf(folds: Folds): FoldAssignment {
  const { method, count, tests } = folds;
  const isBootstrap = method.startsWith('bootstrap');
  const drawnIn = (repeat: number, rowCount: number) => {
    const times = new Int32Array(rowCount);
    for (const row of folds.training(repeat, 0)) times[row] = (times[row] ?? 0) + 1;
    return times;
  };
  return {
    method,
    count,
    tests,
    drawn: isBootstrap ? tests.map((test, repeat) => drawnIn(repeat, test.length)) : null,
  };
}

/**
 * A fold table as CSV: for each repeat and row the fold from 1 in which the row is tested, 0 where it never is; of the
 * bootstrap, how often the row was drawn besides.
 *
 * @param rows the rows that are written; all of them where left out
 */
export function foldCsv(names: RowNames, { tests, drawn }: FoldAssignment, rows?: Int32Array): string {
  const records = tests.flatMap((test, repeat) => {
    const times = drawn?.[repeat];
    return Array.from(rows ?? test.keys(), (row) => {
      const cells = [String(repeat + 1), String((test[row] ?? -1) + 1)];
      return [row, ...cells, ...(times ? [String(times[row])] : [])] as const;
    });
  });
  return assignmentCsv(names, ['repeat', 'fold', ...(drawn ? ['drawn'] : [])], records);
}
