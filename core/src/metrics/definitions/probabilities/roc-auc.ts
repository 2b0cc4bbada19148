import { at } from '../../../foundation/numbers.js';
import { undefinedBecause, type LabelData, type LabelMetric } from '../../metric.js';
import { areaOf, rankingOf } from '../../curves/ranking.js';

/** Area for one label against the rest; NaN where it or the rest has no row. */
export function areaOfLabel(data: LabelData, probabilities: readonly Float64Array[], label: number): number {
  return areaOf(rankingOf(at(probabilities, label), data.truth, label, data.weights));
}

export const rocAuc: LabelMetric = {
  key: 'roc_auc',
  name: 'area under the ROC curve',
  definition:
    'the chance that a positive row gets a higher probability than a negative one; a tie counts half',
  source: 'Hanley and McNeil, Radiology 143 (1982); scikit-learn, roc_auc_score',
  better: 'higher',
  range: [0, 1],
  tasks: ['binary'],
  needs: 'probabilities',
  compute: (data) => {
    if (!data.probabilities) return undefinedBecause('no probabilities were given');
    const value = areaOfLabel(data, data.probabilities, data.positive ?? data.labels.length - 1);
    return Number.isNaN(value) ? undefinedBecause('all rows are of one class') : { value };
  },
};
