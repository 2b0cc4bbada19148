import { positiveCounts } from '../../confusion.js';
import { ratio, type LabelMetric } from '../../metric.js';

/** F-beta: recall counts beta times as much as precision. */
const fBeta = (beta: number, key: string, name: string, definition: string): LabelMetric => ({
  key,
  name,
  definition,
  source: 'van Rijsbergen, Information Retrieval (1979); scikit-learn, fbeta_score',
  better: 'higher',
  range: [0, 1],
  tasks: ['binary'],
  needs: 'labels',
  compute: (data) => {
    const { tp, fp, fn } = positiveCounts(data);
    const square = beta * beta;
    return ratio(
      (1 + square) * tp,
      (1 + square) * tp + square * fn + fp,
      'no row is positive or was predicted so',
    );
  },
});

export const f1 = fBeta(1, 'f1', 'F1', 'the harmonic mean of precision and recall: 2·tp / (2·tp + fp + fn)');
export const f2 = fBeta(2, 'f2', 'F2', 'as F1, recall counting twice as much: 5·tp / (5·tp + 4·fn + fp)');
export const fHalf = fBeta(
  0.5,
  'f_half',
  'F½',
  'as F1, precision counting twice as much: 1.25·tp / (1.25·tp + 0.25·fn + fp)',
);
