import { compareLabels } from '../../evaluation/comparison/compare.js';
import { durbinWatson } from '../../evaluation/diagnostics/autocorrelation.js';
import type { NumberData } from '../../metrics/metric.js';
import { about, askedOf, decimal, generator, figures, metricFigures, metricsOf, whole } from './generator.js';

const rows = (start: number) => ({ type: 'number', label: 'rows', min: 6, max: 60, step: 1, start }) as const;

/** Metrics by which mistakes in others are told; they are not asked for. */
const BESIDE = metricsOf('recall', 'specificity', 'precision', 'accuracy', 'error_rate', 'npv', 'fpr');

const OF_PROBABILITIES = metricsOf(
  'roc_auc',
  'accuracy',
  'precision',
  'recall',
  'specificity',
  'f1',
  'average_precision',
  'log_loss',
  'brier',
);

export const probabilities = generator({
  key: 'probabilities',
  title: 'predicted probabilities',
  about:
    'A short table of truth and probability. Labels follow from the threshold: positive from it up. Areas by their definitions, ties counted half.',
  text: 'The table gives for {n} rows what was true and the predicted probability of “yes”. A row is named “yes” from {threshold} up.',
  from: 'chance',
  parameters: {
    rows: rows(16),
    threshold: { type: 'number', label: 'threshold', min: 0.05, max: 0.95, start: 0.5 },
    asked: figures(
      OF_PROBABILITIES.map(({ name }) => name),
      ['precision', 'area under the ROC curve'],
    ),
  },
  sentence: () =>
    'Draw {rows} rows with probabilities, named “yes” from {threshold} up, and ask for {asked}.',
  draw(values, random) {
    const truth = Int32Array.from({ length: values.rows }, () => (random.unit() < 0.45 ? 1 : 0));
    const positive = Float64Array.from(truth, (one) =>
      Math.min(0.98, Math.max(0.02, about(random, one ? 0.62 : 0.38, 0.2, 2))),
    );
    const judged = {
      kind: 'labels' as const,
      data: {
        labels: ['no', 'yes'],
        truth,
        predicted: Int32Array.from(positive, (p) => (p >= values.threshold ? 1 : 0)),
        probabilities: [positive.map((p) => 1 - p), positive],
        positive: 1,
        weights: null,
      },
    };
    return {
      given: { n: String(values.rows), threshold: String(values.threshold) },
      table: {
        header: ['row', 'truth', 'probability'],
        rows: Array.from(truth, (one, i) => [
          String(i + 1),
          one ? 'yes' : 'no',
          (positive[i] ?? 0).toFixed(2),
        ]),
      },
      asked: askedOf(
        { ...metricFigures(OF_PROBABILITIES, judged), ...metricFigures(BESIDE, judged) },
        values.asked,
        { workings: { labels: judged.data } },
      ),
    };
  },
});

const OF_NUMBERS = metricsOf(
  'rmse',
  'mae',
  'median_ae',
  'mse',
  'mape',
  'r2',
  'explained_variance',
  'max_error',
  'mean_error',
);
const BESIDE_NUMBERS = metricsOf('pearson');
const DURBIN_WATSON = 'Durbin–Watson statistic';

export const numbers = generator({
  key: 'numbers',
  title: 'predicted numbers',
  about:
    'A short table of truth and prediction. Errors are predictions less truth; residuals, truth less prediction, in the order of the rows.',
  text: 'The table gives for {n} rows the weight that was found and the weight that a model predicted, in kilograms. The model is linear with {features} features; the mean weight of the rows that it was fitted to is {mean} kg.',
  from: 'chance',
  parameters: {
    rows: rows(10),
    asked: figures([...OF_NUMBERS.map(({ name }) => name), DURBIN_WATSON], ['root mean squared error']),
  },
  sentence: () => 'Draw {rows} rows with predicted numbers, and ask for {asked}.',
  draw(values, random) {
    const truth = Float64Array.from({ length: values.rows }, () => decimal(random, 12, 48, 1));
    const predicted = truth.map((value) => Number((value + about(random, 0.4, 3, 1)).toFixed(1)));
    const data: NumberData = { truth, predicted, weights: null, features: null };
    const figuresOf = metricFigures([...OF_NUMBERS, ...BESIDE_NUMBERS], { kind: 'numbers', data });
    // Drawn last, so that the rows stay those of before there was either.
    const features = whole(random, 1, Math.min(6, values.rows - 3));
    const trainingMean = decimal(random, 22, 38, 1);
    const watson = durbinWatson(truth.map((value, i) => value - (predicted[i] ?? 0)));
    return {
      given: { n: String(values.rows), features: String(features), mean: trainingMean.toFixed(1) },
      table: {
        header: ['row', 'truth', 'prediction'],
        rows: Array.from(truth, (value, i) => [
          String(i + 1),
          value.toFixed(1),
          (predicted[i] ?? 0).toFixed(1),
        ]),
      },
      asked: askedOf(
        {
          ...figuresOf,
          [DURBIN_WATSON]: watson === null ? { value: null, reason: 'all residuals are 0' } : watson,
        },
        values.asked,
        { workings: { numbers: data, trainingMean, features } },
      ),
    };
  },
});

export const agreement = generator({
  key: 'agreement',
  title: 'two models’ labels',
  about:
    'A short table of what two models predict. Agreement is the share of rows for which both predict the same; kappa compares it with chance; McNemar’s test is the exact one.',
  text: 'The table gives for {n} rows what was true, and what two models predict.',
  from: 'chance',
  parameters: {
    rows: rows(20),
    asked: figures(['agreement', 'rows that differ', 'kappa of the two', 'McNemar p'], ['agreement']),
  },
  sentence: () => 'Draw {rows} rows with the labels of two models, and ask for {asked}.',
  draw(values, random) {
    const truth = Int32Array.from({ length: values.rows }, () => random.below(2));
    const right = (share: number) => truth.map((one) => (random.unit() < share ? one : 1 - one));
    const [first, second] = [right(0.8), right(whole(random, 60, 75) / 100)];
    const data = (predicted: Int32Array) => ({
      labels: ['no', 'yes'],
      predicted,
      probabilities: null,
      positive: 1,
    });
    const compared = compareLabels(data(first), data(second), truth);
    const kappa = metricFigures(metricsOf('kappa'), {
      kind: 'labels',
      data: { ...data(second), truth: first, weights: null },
    });
    const p = compared.mcnemar?.p;
    const word = (codes: Int32Array, i: number) => (codes[i] ? 'yes' : 'no');
    return {
      given: { n: String(values.rows) },
      table: {
        header: ['row', 'truth', 'first', 'second'],
        rows: Array.from(truth, (_, i) => [String(i + 1), word(truth, i), word(first, i), word(second, i)]),
      },
      asked: askedOf(
        {
          agreement: compared.agreement,
          'rows that differ': compared.differs.length,
          'kappa of the two': Object.values(kappa)[0] ?? { value: null, reason: 'there is none' },
          'McNemar p': p === undefined ? { value: null, reason: 'the models never differ' } : p,
        },
        values.asked,
      ),
    };
  },
});
