import { SieveError } from '../../foundation/errors.js';
import { at, indices } from '../../foundation/numbers.js';
import type { Table } from '../../data/table/table.js';
import { strataOf } from '../../splitting/algorithms/strata.js';
import { judgeAgainst, type AnswerKey } from '../files/judge.js';
import type { Predictions } from '../files/reader.js';
import type { PredictionRules } from '../files/rules.js';

/** A held-out row, and what a class predicts for it. */
export interface RowInClass {
  readonly identifier: string;
  readonly truth: string;
  /** The label that most students give, or the mean of their numbers. */
  readonly answer: string;
  /** Of labels, the share of students who give another one than the key, from 0 to 1; of numbers, the mean absolute error. */
  readonly missed: number;
}

/** Held-out rows with one value of a feature, or in one fifth of it. */
export interface SubgroupInClass {
  readonly column: string;
  readonly value: string;
  readonly rows: number;
  /** Mean of `missed` over its rows, and over all other rows. */
  readonly missed: number;
  readonly elsewhere: number;
}

/** Where a class goes wrong in a question of predictions. */
export interface ClassRows {
  readonly students: number;
  /** Held-out rows that are judged. */
  readonly rows: number;
  readonly kind: 'labels' | 'numbers';
  /** Mean of `missed` over all rows. */
  readonly missed: number;
  /** Those that are missed most first; at most `MOST_ROWS`. */
  readonly worst: readonly RowInClass[];
  /** Those whose rows are missed more than others, by standard errors of the difference; at most `MOST_SUBGROUPS`. */
  readonly subgroups: readonly SubgroupInClass[];
}

const MOST_ROWS = 12;
const MOST_SUBGROUPS = 8;
/** Rows below which a subgroup is not listed: common practice. */
const FEWEST_ROWS = 10;

/**
 * The rows and the subgroups of rows that a class predicts worst. It compares nothing with chance: rows of one group
 * resemble one another, and some of many subgroups are always the worst.
 *
 * @param answers one for each student, aligned to the identifiers of the rules; at least one
 * @param features the held-out rows as the pack has them, in the order of the rules
 * @throws SieveError `other-rows` where the features are of other rows
 */
export function classOnRows(
  key: AnswerKey,
  rules: PredictionRules,
  answers: readonly Predictions[],
  features: Table,
): ClassRows {
  const n = rules.identifiers.length;
  if (features.rowCount !== n)
    throw new SieveError(
      'other-rows',
      `The held-out file of the pack has ${features.rowCount} rows, and the question ${n}.`,
    );
  const errors = answers.map((one) => errorsOf(key, one));
  const missed = new Float64Array(n);
  for (const own of errors) for (let row = 0; row < n; row++) missed[row] = at(missed, row) + at(own, row);
  for (let row = 0; row < n; row++) missed[row] = at(missed, row) / answers.length;
  const all = indices(n);
  // Rows that are missed alike stay in the order of the pack, which says nothing.
  const worst = Array.from(all)
    .filter((row) => at(missed, row) > 0)
    .sort((a, b) => at(missed, b) - at(missed, a))
    .slice(0, MOST_ROWS);
  return {
    students: answers.length,
    rows: n,
    kind: key.classes ? 'labels' : 'numbers',
    missed: meanOf(missed, all).mean,
    worst: worst.map((row) => ({
      identifier: rules.identifiers[row] ?? '',
      ...truthAndAnswer(key, answers, row),
      missed: at(missed, row),
    })),
    subgroups: subgroupsOf(features, rules.identifier, missed),
  };
}

/** For each row 1 where the label is wrong, or the absolute error. */
function errorsOf(key: AnswerKey, predictions: Predictions): Float64Array {
  const judged = judgeAgainst(key, predictions, indices(key.feedback.length));
  if (judged.kind === 'numbers') {
    const { truth, predicted } = judged.data;
    return truth.map((value, row) => Math.abs(value - at(predicted, row)));
  }
  const { truth, predicted } = judged.data;
  return Float64Array.from(truth, (code, row) => (code === predicted[row] ? 0 : 1));
}

function truthAndAnswer(
  { labels, classes, values }: AnswerKey,
  answers: readonly Predictions[],
  row: number,
): Pick<RowInClass, 'truth' | 'answer'> {
  if (classes) {
    const counts = labels.map(() => 0);
    for (const { predicted } of answers) {
      const code = at(predicted, row);
      counts[code] = (counts[code] ?? 0) + 1;
    }
    const most = counts.indexOf(Math.max(...counts));
    return { truth: labels[at(classes, row)] ?? '', answer: labels[most] ?? '' };
  }
  const mean = answers.reduce((sum, { predicted }) => sum + at(predicted, row), 0) / answers.length;
  return { truth: String(values ? at(values, row) : ''), answer: String(Number(mean.toPrecision(6))) };
}

function subgroupsOf(features: Table, identifier: string, missed: Float64Array): SubgroupInClass[] {
  const found: { readonly apart: number; readonly subgroup: SubgroupInClass }[] = [];
  for (const column of features.columns) {
    if (column.name === identifier) continue;
    const { labels, codes } = strataOf(column);
    const members = labels.map((): number[] => []);
    codes.forEach((code, row) => members[code]?.push(row));
    members.forEach((inside, code) => {
      const outside = Array.from(indices(missed.length)).filter((row) => codes[row] !== code);
      if (inside.length < FEWEST_ROWS || outside.length < FEWEST_ROWS) return;
      const [own, others] = [meanOf(missed, inside), meanOf(missed, outside)];
      const error = Math.sqrt(own.square + others.square);
      const apart = (own.mean - others.mean) / (error || 1);
      if (apart > 0)
        found.push({
          apart,
          subgroup: {
            column: column.name,
            value: labels[code] ?? '',
            rows: inside.length,
            missed: own.mean,
            elsewhere: others.mean,
          },
        });
    });
  }
  return found
    .sort((a, b) => b.apart - a.apart)
    .slice(0, MOST_SUBGROUPS)
    .map(({ subgroup }) => subgroup);
}

/** Mean of some values, and the square of its standard error. */
function meanOf(values: Float64Array, rows: ArrayLike<number>): { mean: number; square: number } {
  const n = rows.length;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += at(values, at(rows, i));
  const mean = sum / n;
  let squares = 0;
  for (let i = 0; i < n; i++) squares += (at(values, at(rows, i)) - mean) ** 2;
  return { mean, square: n < 2 ? 0 : squares / (n - 1) / n };
}
