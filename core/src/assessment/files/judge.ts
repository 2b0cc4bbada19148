import { resampled, type Judged } from '../../metrics/judged.js';
import type { Task } from '../../data/table/roles.js';
import type { Predictions } from './reader.js';

/** The answers to the held-out rows, in the order of the pack. It never leaves the server. */
export interface AnswerKey {
  readonly task: Task;
  readonly labels: readonly string[];
  readonly positive: string | null;
  /** True class codes; null where numbers are predicted. */
  readonly classes: Int32Array | null;
  /** True numbers; null where classes are predicted. */
  readonly values: Float64Array | null;
  /** The group of each row, or null where rows are independent. */
  readonly groups: Int32Array | null;
  /** 1 for rows whose score may be shown while the exercise is open, 0 for those that decide the mark. */
  readonly feedback: Uint8Array;
  /** Score on the final rows up to which no work is shown; null where there is none, left out in earlier keys. */
  readonly floor?: number | null;
  /** By how much the points of the mark line are lowered for everybody: the benefit of the doubt; 0 where left out. */
  readonly margin?: number;
}

/** Predictions beside their answers on the chosen rows. */
export function judgeAgainst(key: AnswerKey, predictions: Predictions, rows: Int32Array): Judged {
  if (predictions.kind === 'numbers' && key.values) {
    return resampled(
      {
        kind: 'numbers',
        data: { truth: key.values, predicted: predictions.predicted, weights: null, features: null },
      },
      rows,
    );
  }
  if (predictions.kind === 'labels' && key.classes) {
    const positive = key.positive === null ? null : key.labels.indexOf(key.positive);
    const { predicted, probabilities } = predictions;
    const data = {
      labels: key.labels,
      truth: key.classes,
      predicted,
      probabilities,
      positive,
      weights: null,
    };
    return resampled({ kind: 'labels', data }, rows);
  }
  throw new TypeError('predictions and key are of different kinds');
}

/** Rows of a key by what they are for. */
export function rowsFor(key: AnswerKey, purpose: 'feedback' | 'final'): Int32Array {
  const wanted = purpose === 'feedback' ? 1 : 0;
  return Int32Array.from(key.feedback.keys()).filter((row) => key.feedback[row] === wanted);
}
