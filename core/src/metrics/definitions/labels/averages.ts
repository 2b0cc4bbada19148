import { occurringCounts, type LabelCounts } from '../../confusion.js';
import { ratio, undefinedBecause, type Figure, type LabelMetric } from '../../metric.js';

/** Precision, recall, F1 and Jaccard index of one label; nought where its denominator is, as scikit-learn averages them. */
const FIGURES = {
  precision: ({ tp, fp }: LabelCounts) => (tp + fp > 0 ? tp / (tp + fp) : 0),
  recall: ({ tp, fn }: LabelCounts) => (tp + fn > 0 ? tp / (tp + fn) : 0),
  f1: ({ tp, fp, fn }: LabelCounts) => (2 * tp) / (2 * tp + fp + fn),
  jaccard: ({ tp, fp, fn }: LabelCounts) => tp / (tp + fp + fn),
};
type FigureName = keyof typeof FIGURES;

const NAMES: Record<FigureName, string> = {
  precision: 'precision',
  recall: 'recall',
  f1: 'F1',
  jaccard: 'Jaccard index',
};

/** How the figures of the labels become one. Labels that neither occur nor were predicted take no part. */
const AVERAGES = {
  macro: {
    definition: 'the plain mean over the classes',
    of: (labels: readonly LabelCounts[], figure: FigureName): Figure =>
      ratio(
        labels.reduce((total, c) => total + FIGURES[figure](c), 0),
        labels.length,
        'there are no rows',
      ),
  },
  micro: {
    definition: 'from the counts of all classes added up; with one label for each row it equals accuracy',
    of: (labels: readonly LabelCounts[], figure: FigureName): Figure => {
      const total = { tp: 0, fn: 0, fp: 0, tn: 0 };
      for (const c of labels) {
        total.tp += c.tp;
        total.fn += c.fn;
        total.fp += c.fp;
        total.tn += c.tn;
      }
      return labels.length === 0 ? undefinedBecause('there are no rows') : { value: FIGURES[figure](total) };
    },
  },
  weighted: {
    definition: 'the mean over the classes, each with the weight of its rows',
    of: (labels: readonly LabelCounts[], figure: FigureName): Figure =>
      ratio(
        labels.reduce((total, c) => total + FIGURES[figure](c) * (c.tp + c.fn), 0),
        labels.reduce((total, c) => total + c.tp + c.fn, 0),
        'there are no rows',
      ),
  },
};
type AverageName = keyof typeof AVERAGES;

const average = (kind: AverageName, figure: FigureName): LabelMetric => ({
  key: `${kind}_${figure}`,
  name: `${kind} ${NAMES[figure]}`,
  definition: `${NAMES[figure]}: ${AVERAGES[kind].definition}`,
  source: 'scikit-learn, precision_recall_fscore_support and jaccard_score',
  better: 'higher',
  range: [0, 1],
  tasks: ['multiclass'],
  needs: 'labels',
  compute: (data) => AVERAGES[kind].of(occurringCounts(data), figure),
});

export const averages: readonly LabelMetric[] = (['macro', 'micro', 'weighted'] as const).flatMap((kind) =>
  (['precision', 'recall', 'f1', 'jaccard'] as const).map((figure) => average(kind, figure)),
);
