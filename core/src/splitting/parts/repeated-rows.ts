import { firstAlike } from '../../data/table/same-rows.js';
import type { Plan } from '../../data/sentence/sentence.js';
import type { Table } from '../../data/table/table.js';
import type { Setting } from '../setting.js';

/** What becomes of rows that are the same as an earlier one in every column. */
export type RepeatedRows = 'keep' | 'together' | 'drop';

/** The setting of the command line. */
export const repeatedRowsSetting = {
  type: 'choice',
  choices: ['keep', 'together', 'drop'],
  text: 'rows that are the same as an earlier one in every column: keep them as rows of their own, keep them together with it, or drop them',
} as const satisfies Setting;

/** The parameter of a sentence, for parts (“part”) and for folds (“fold”). Left out, rows are kept as they are. */
export const repeatedRowsParameter = (unit: 'part' | 'fold') =>
  ({
    type: 'choice',
    label: 'what becomes of repeated rows',
    choices: [
      { value: 'keep', text: 'count like any other' },
      { value: 'together', text: `go to the ${unit} of the first` },
      { value: 'drop', text: 'are dropped' },
    ],
    optional: true,
  }) as const;

/** The end of a sentence with that parameter. */
export const REPEATED_ROWS_SENTENCE = 'Rows that repeat an earlier one {repeatedRows}.';

/** What a sentence says of them. */
export const repeatedRowsOf = ({ values }: Plan): RepeatedRows =>
  repeatedRowsSetting.choices.find((one) => one === values['repeatedRows']) ?? 'keep';

/** The rows that take part, and for each of them the first one that is the same, itself where there is none before. */
export interface DistinctRows {
  /** 1 for each row that takes part and repeats no earlier one of them. */
  readonly usable: Uint8Array;
  /** −1 for rows that take no part. */
  readonly first: Int32Array;
}

/** @param usable 1 for each row that takes part; all rows where omitted */
export function distinctRows(table: Table, usable?: Uint8Array): DistinctRows {
  const first = firstAlike(table.columns, table.rowCount, (row) => usable?.[row] !== 0);
  return { usable: Uint8Array.from(first, (one, row) => (one === row ? 1 : 0)), first };
}
