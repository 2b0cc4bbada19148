import type { LabelData } from '../../metrics/metric.js';
import { count } from '../../foundation/numbers.js';
import { askedOf, generator, figures, metricFigures, metricsOf, whole } from './generator.js';

const FROM_COUNTS = metricsOf(
  'accuracy',
  'balanced_accuracy',
  'error_rate',
  'precision',
  'recall',
  'specificity',
  'npv',
  'fpr',
  'fnr',
  'f1',
  'jaccard',
  'kappa',
  'mcc',
);
const CELLS = ['true positives', 'false positives', 'true negatives', 'false negatives'] as const;

/** Two classes by truth and prediction, row by row. */
function labelsOf(tp: number, fn: number, fp: number, tn: number): LabelData {
  const rows = (truth: number, predicted: number, n: number) =>
    Array.from({ length: n }, () => [truth, predicted] as const);
  const all = [...rows(1, 1, tp), ...rows(1, 0, fn), ...rows(0, 1, fp), ...rows(0, 0, tn)];
  return {
    labels: ['no', 'yes'],
    truth: Int32Array.from(all, ([truth]) => truth),
    predicted: Int32Array.from(all, ([, predicted]) => predicted),
    probabilities: null,
    positive: 1,
    weights: null,
  };
}

export const confusion = generator({
  key: 'confusion',
  title: 'a confusion matrix of two classes',
  about:
    'Counts of a model’s answers. The text gives the rows of each class and those that were named correctly, so that the other two cells follow. Every metric by its definition.',
  text: 'A model was tried on {n} rows. Of the {positive} rows that are “yes” it predicted {tp} correctly; of the {negative} that are “no” it predicted {tn} correctly. “Yes” is the positive class.',
  from: 'chance',
  parameters: {
    rows: { type: 'number', label: 'rows', min: 20, max: 5000, step: 1, start: 200 },
    positive: { type: 'number', label: 'share of positive rows', unit: '%', min: 5, max: 95, start: 35 },
    asked: figures([...FROM_COUNTS.map(({ name }) => name), ...CELLS], ['precision', 'recall (sensitivity)']),
  },
  sentence: () =>
    'Make a confusion matrix of about {rows} rows, about {positive} positive, and ask for {asked}.',
  draw(values, random) {
    const n = Math.round(values.rows * (0.8 + 0.4 * random.unit()));
    const near = Math.round((n * values.positive) / 100);
    const positive = Math.min(
      n - 4,
      Math.max(4, whole(random, Math.round(near * 0.8), Math.round(near * 1.2))),
    );
    const negative = n - positive;
    // Better than chance and never perfect, so that no two cells are alike by design.
    const tp = whole(random, Math.ceil(positive * 0.55), positive - 1);
    const tn = whole(random, Math.ceil(negative * 0.55), negative - 1);
    const [fn, fp] = [positive - tp, negative - tn];
    const labels = labelsOf(tp, fn, fp, tn);
    return {
      given: {
        n: count(n),
        positive: count(positive),
        negative: count(negative),
        tp: count(tp),
        tn: count(tn),
        fp: count(fp),
        fn: count(fn),
      },
      table: null,
      asked: askedOf(
        {
          ...metricFigures(FROM_COUNTS, { kind: 'labels', data: labels }),
          'true positives': tp,
          'false positives': fp,
          'true negatives': tn,
          'false negatives': fn,
        },
        values.asked,
        { workings: { labels } },
      ),
    };
  },
});
