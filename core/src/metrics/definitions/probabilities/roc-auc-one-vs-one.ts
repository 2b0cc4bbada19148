import { at } from '../../../foundation/numbers.js';
import { undefinedBecause, type LabelMetric } from '../../metric.js';
import { areaOf, rankingOf } from '../../curves/ranking.js';

export const rocAucOneVsOne: LabelMetric = {
  key: 'roc_auc_one_vs_one',
  name: 'area, one class against another',
  definition:
    'the plain mean over pairs of classes of the area on the rows of the pair, by the probability of the one and of the other class',
  source: 'Hand and Till, Machine Learning 45 (2001); scikit-learn, roc_auc_score with multi_class="ovo"',
  better: 'higher',
  range: [0, 1],
  tasks: ['multiclass'],
  needs: 'probabilities',
  compute: ({ probabilities, truth, weights, labels }) => {
    if (!probabilities) return undefinedBecause('no probabilities were given');
    let sum = 0;
    for (let a = 0; a < labels.length; a++) {
      for (let b = a + 1; b < labels.length; b++) {
        const rows = truth.map((_, row) => row).filter((row) => truth[row] === a || truth[row] === b);
        const codes = rows.map((row) => at(truth, row));
        const own = weights ? Float64Array.from(rows, (row) => at(weights, row)) : null;
        for (const label of [a, b]) {
          const scores = Float64Array.from(rows, (row) => at(at(probabilities, label), row));
          const area = areaOf(rankingOf(scores, codes, label, own));
          if (Number.isNaN(area)) return undefinedBecause(`“${labels[a]}” or “${labels[b]}” has no row`);
          sum += area;
        }
      }
    }
    return { value: sum / (labels.length * (labels.length - 1)) };
  },
};
