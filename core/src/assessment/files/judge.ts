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
  /** Of the further figures of a question, in their order; left out where there are none. */
  readonly further?: readonly FurtherKey[];
}

/** Which rows a further figure is of, and from where it shows work. */
export interface FurtherKey {
  /** The figure in words. */
  readonly title: string;
  readonly metric: string;
  /** Whether it is of one set of rows, the worst of its subgroups, or the largest gap between two of them. */
  readonly how: 'rows' | 'worst' | 'gap';
  readonly labels: readonly string[];
  /** For each held-out row the code of its label; −1 where it is of none of them. */
  readonly codes: Int32Array;
  /** Score up to which no work is shown; null where guesses reach as much as work does. */
  readonly floor: number | null;
  /** Whether it earns no larger share of its marks than the first figure, since guesses reach it. */
  readonly beside: boolean;
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
  const { feedback } = key;
  const rows = new Int32Array(feedback.length);
  let n = 0;
  for (let row = 0; row < feedback.length; row++) if (feedback[row] === wanted) rows[n++] = row;
  return rows.slice(0, n);
}
