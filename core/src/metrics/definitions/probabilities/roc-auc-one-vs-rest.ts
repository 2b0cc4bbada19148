import { undefinedBecause, type LabelMetric } from '../../metric.js';
import { areaOfLabel } from './roc-auc.js';

export const rocAucOneVsRest: LabelMetric = {
  key: 'roc_auc_one_vs_rest',
  name: 'area, one class against the rest',
  definition: 'the plain mean over classes of the area under the ROC curve of the class against all others',
  source: 'scikit-learn, roc_auc_score with multi_class="ovr"',
  better: 'higher',
  range: [0, 1],
  tasks: ['multiclass'],
  needs: 'probabilities',
  compute: (data) => {
    const { probabilities } = data;
    if (!probabilities) return undefinedBecause('no probabilities were given');
    const areas = data.labels.map((_, label) => areaOfLabel(data, probabilities, label));
    const lacking = areas.findIndex(Number.isNaN);
    if (lacking >= 0) return undefinedBecause(`no row, or every row, is of class “${data.labels[lacking]}”`);
    return { value: areas.reduce((a, b) => a + b, 0) / areas.length };
  },
};
