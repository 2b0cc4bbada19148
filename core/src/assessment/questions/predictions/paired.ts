import { at, shortNumber } from '../../../foundation/numbers.js';
import { pearson } from '../../../data/profile/association.js';
import type { AnswerKey } from '../../files/judge.js';
import type { Predictions } from '../../files/reader.js';

/** How wrong a file is in each row: 1 or 0 of a label, the squared distance of probabilities or of a number. */
export function losses(predictions: Predictions, { classes, values }: AnswerKey): Float64Array {
  const n = (classes ?? values ?? []).length;
  const loss = new Float64Array(n);
  if (predictions.kind === 'numbers') {
    const { predicted } = predictions;
    for (let row = 0; row < n; row++) loss[row] = ((predicted[row] ?? NaN) - (values?.[row] ?? 0)) ** 2;
    return loss;
  }
  const { predicted, probabilities } = predictions;
  if (!probabilities) {
    for (let row = 0; row < n; row++) loss[row] = predicted[row] === classes?.[row] ? 0 : 1;
    return loss;
  }
  probabilities.forEach((of, label) => {
    for (let row = 0; row < n; row++)
      loss[row] = (loss[row] ?? 0) + ((of[row] ?? NaN) - (classes?.[row] === label ? 1 : 0)) ** 2;
  });
  return loss;
}

/** Differences of two losses, summed over whole groups where there are any. */
function differences(before: Float64Array, after: Float64Array, groups: Int32Array | null): Float64Array {
  if (!groups) {
    const less = new Float64Array(before.length);
    for (let row = 0; row < less.length; row++) less[row] = (before[row] ?? NaN) - (after[row] ?? NaN);
    return less;
  }
  const sums = new Map<number, number>();
  groups.forEach((group, row) => sums.set(group, (sums.get(group) ?? 0) + at(before, row) - at(after, row)));
  return Float64Array.from(sums.values());
}

/**
 * By how many standard errors one loss is above another on the same rows, over whole groups where rows are not
 * independent; 0 where there are too few to say.
 */
function lead(before: Float64Array, after: Float64Array, groups: Int32Array | null): number {
  const all = differences(before, after, groups);
  const n = all.length;
  if (n < 10) return 0;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += all[i] ?? 0;
  const mean = sum / n;
  let squares = 0;
  for (let i = 0; i < n; i++) squares += ((all[i] ?? 0) - mean) ** 2;
  // A difference that is the same in every group is as sure as the groups are many.
  return squares === 0 ? Math.sign(mean) * Math.sqrt(n) : mean / Math.sqrt(squares / (n - 1) / n);
}

/** Predictions with the rows in another order: the one at `order[i]` becomes that of row i. */
export function reordered(predictions: Predictions, order: Int32Array): Predictions {
  const numbers = (from: Float64Array): Float64Array => inOrder(from, order, new Float64Array(order.length));
  if (predictions.kind === 'numbers') return { kind: 'numbers', predicted: numbers(predictions.predicted) };
  return {
    ...predictions,
    predicted: inOrder(predictions.predicted, order, new Int32Array(order.length)),
    probabilities: predictions.probabilities?.map(numbers) ?? null,
  };
}

function inOrder<Values extends Float64Array | Int32Array>(
  from: Values,
  order: Int32Array,
  to: Values,
): Values {
  for (let i = 0; i < order.length; i++) to[i] = from[order[i] ?? 0] ?? NaN;
  return to;
}

/** How closely predictions go with the truth: the largest correlation of a class, or that of the numbers, times √n. */
function relation(predictions: Predictions, { classes, values, labels }: AnswerKey): number {
  if (predictions.kind === 'numbers' && values)
    return (pearson(predictions.predicted, values) ?? 0) * Math.sqrt(values.length);
  if (predictions.kind === 'numbers' || !classes) return 0;
  const { predicted, probabilities } = predictions;
  return Math.max(
    ...labels.map(
      (_, label) =>
        (pearson(
          probabilities ? at(probabilities, label) : isLabel(predicted, label),
          isLabel(classes, label),
        ) ?? 0) * Math.sqrt(classes.length),
    ),
  );
}

/** 1 for each row of a class, else 0. */
function isLabel(codes: Int32Array, label: number): Float64Array {
  const is = new Float64Array(codes.length);
  for (let row = 0; row < is.length; row++) is[row] = codes[row] === label ? 1 : 0;
  return is;
}

/** Predictions, and the answers. */
export interface Predicted {
  readonly predictions: Predictions;
  readonly key: AnswerKey;
}

/** Predictions of a file that could be read, and the answers. */
export interface PredictedFile extends Predicted {
  readonly identifiers: readonly string[];
}

/** Standard errors by which a hypothesis must be better than the file as it is: the contract asks for three. */
const LEAD = 3.5;
/** How closely the file must go with the truth under the hypothesis, as a correlation times √n. */
export const RELATED = 4;

/** How much better the file would be under a hypothesis; null where that could be chance. */
export function better({ predictions, key }: Predicted, other: Predictions): number | null {
  // Few orders of a file go with the truth at all: losses are taken of these alone.
  if (!(relation(other, key) > RELATED)) return null;
  const ahead = lead(losses(predictions, key), losses(other, key), key.groups);
  return ahead > LEAD ? ahead : null;
}

export const leadWords = (ahead: number): string => `better by ${shortNumber(ahead, 3)} standard errors`;

/** Whether rows stand where they belong: predictions go with the truth as they are. */
export const isInPlace = ({ predictions, key }: Predicted): boolean => relation(predictions, key) > RELATED;
