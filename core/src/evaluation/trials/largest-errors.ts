import { cellText, columnNamed, type Table } from '../../data/table/table.js';
import { at, shortNumber } from '../../foundation/numbers.js';
import type { Judged } from '../../metrics/judged.js';

/** Rows with the largest errors. */
const MOST_ERRORS = 20;

export interface LargestError {
  /** Number of the row in the version, from 1. */
  readonly row: number;
  readonly name: string;
  readonly truth: string;
  readonly predicted: string;
  /** 1 less the probability of the truth, or prediction less truth. */
  readonly error: number;
}

interface JudgedRows {
  readonly table: Table;
  readonly judged: Judged;
  readonly rows: Int32Array;
  /** The column that names rows; null for their number. */
  readonly identifier: string | null;
}

/** The rows whose errors are the largest; rows without an error are none of them. */
export function largestErrors({ table, judged, rows, identifier }: JudgedRows): LargestError[] {
  const names = identifier === null ? null : columnNamed(table, identifier);
  const error = errorOf(judged);
  const wrong = Array.from(rows.keys()).filter((i) => error(i) !== 0);
  const order = wrong.sort((a, b) => Math.abs(error(b)) - Math.abs(error(a)) || a - b);
  return order.slice(0, MOST_ERRORS).map((i) => {
    const row = at(rows, i);
    const { data } = judged;
    const text = (value: number) =>
      judged.kind === 'labels' ? at(judged.data.labels, value) : shortNumber(value, 4);
    return {
      row: row + 1,
      name: (names && cellText(names, row)) ?? String(row + 1),
      truth: text(at(data.truth, i)),
      predicted: text(at(data.predicted, i)),
      error: error(i),
    };
  });
}

function errorOf(judged: Judged): (i: number) => number {
  if (judged.kind === 'numbers') return (i) => at(judged.data.predicted, i) - at(judged.data.truth, i);
  const { probabilities, truth, predicted } = judged.data;
  return (i) =>
    probabilities ? 1 - (probabilities[at(truth, i)]?.[i] ?? 0) : at(truth, i) === at(predicted, i) ? 0 : 1;
}
