import type { LabelData } from '../../metrics/metric.js';
import { at, count } from '../../foundation/numbers.js';
import { askedOf, figures, generator, metricFigures, metricsOf, whole } from './generator.js';

const OF_CLASSES = metricsOf(
  'accuracy',
  'error_rate',
  'balanced_accuracy',
  'macro_precision',
  'macro_recall',
  'macro_f1',
  'micro_precision',
  'micro_recall',
  'micro_f1',
  'weighted_precision',
  'weighted_recall',
  'weighted_f1',
  'kappa',
  'mcc',
);
/** Classes of bees’ forage, as pollen tells them. */
const CLASSES = ['clover', 'lime', 'heather', 'rape', 'willow', 'maple'] as const;

/** Counts by truth (rows) and prediction, row by row. */
function labelsOf(counts: readonly (readonly number[])[]): LabelData {
  const all = counts.flatMap((row, truth) =>
    row.flatMap((n, predicted) => Array.from({ length: n }, () => [truth, predicted] as const)),
  );
  return {
    labels: CLASSES.slice(0, counts.length),
    truth: Int32Array.from(all, ([truth]) => truth),
    predicted: Int32Array.from(all, ([, predicted]) => predicted),
    probabilities: null,
    positive: null,
    weights: null,
  };
}

export const confusionOfClasses = generator({
  key: 'confusion-classes',
  title: 'a confusion matrix of several classes',
  about:
    'Counts of a model’s answers to three to six classes of unequal size, truth in the rows. Macro averages are plain means over the classes, micro averages add up the counts first, weighted averages count each class by its rows.',
  text: 'A model named the plant of {n} samples of pollen. In the table a row is what was true, a column what was predicted.',
  from: 'chance',
  parameters: {
    classes: { type: 'number', label: 'classes', min: 3, max: CLASSES.length, step: 1, start: 3 },
    rows: { type: 'number', label: 'rows', min: 60, max: 5000, step: 1, start: 300 },
    asked: figures(
      OF_CLASSES.map(({ name }) => name),
      ['accuracy', 'macro recall', 'macro F1'],
    ),
  },
  sentence: () => 'Make a confusion matrix of {classes} classes and about {rows} rows, and ask for {asked}.',
  draw({ classes, rows, asked }, random) {
    // Classes of unequal size and unequal difficulty, so that no two averages are alike by design.
    const weights = Array.from({ length: classes }, (_, i) => 3 ** (1 - i / 2) * (0.8 + 0.4 * random.unit()));
    const sum = weights.reduce((a, b) => a + b, 0);
    const counts = weights.map((weight, truth) => {
      const size = Math.max(8, Math.round((rows * weight) / sum));
      const right = whole(random, Math.ceil(size * (0.5 + 0.1 * (truth % 3))), size - 2);
      const row = new Array<number>(classes).fill(0);
      row[truth] = right;
      for (let left = size - right; left > 0; left--) {
        const other = random.below(classes - 1);
        const place = other < truth ? other : other + 1;
        row[place] = at(row, place) + 1;
      }
      return row;
    });
    const labels = labelsOf(counts);
    return {
      given: { n: count(labels.truth.length) },
      table: {
        header: ['truth', ...labels.labels],
        rows: counts.map((row, truth) => [at(labels.labels, truth), ...row.map(String)]),
      },
      asked: askedOf(metricFigures(OF_CLASSES, { kind: 'labels', data: labels }), asked, {
        workings: { labels },
      }),
    };
  },
});
