import { figureOf } from '../../../metrics/judged.js';
import type { LabelData } from '../../../metrics/metric.js';
import { metricCalled, named, nameOf } from './metric-names.js';
import { givenFor, valueSlip, type ValueSlip } from './value-slip.js';

/** The asked metric on other rows, or the same rows read otherwise. */
function metricOn(asked: string, data: LabelData | null): number[] {
  const metric = metricCalled(asked);
  if (!metric || !data) return [];
  const { value } = figureOf(metric, { kind: 'labels', data });
  return value === null ? [] : [value];
}

/** The same rows with the other of two classes as the positive one. */
const otherPositive = (data: LabelData): LabelData | null =>
  data.labels.length === 2 && data.positive !== null ? { ...data, positive: 1 - data.positive } : null;

/** Truth and prediction exchanged. */
const transposed = (data: LabelData): LabelData => ({
  ...data,
  truth: data.predicted,
  predicted: data.truth,
  probabilities: null,
});

/** Metrics of which macro, micro and weighted averages are taken. */
const AVERAGED = ['precision', 'recall', 'f1', 'jaccard'] as const;
const averages = (one: string, other: string) =>
  AVERAGED.map((metric) => [`${one}_${metric}`, `${other}_${metric}`] as const);

export const CLASSIFICATION_SLIPS: readonly ValueSlip[] = [
  givenFor(
    {
      id: 'precision-recall-exchanged',
      title: 'precision and recall exchanged',
      says: 'You gave recall where precision is asked, or precision where recall is.',
      remedy:
        'Precision asks of the rows that were named positive how many are; its denominator is a column of predictions. Recall asks of the rows that are positive how many were found; its denominator is a row of truth.',
      example:
        'Of 50 lost colonies a model finds 40, and it names 80 colonies lost. Recall is 40 of 50, 0.8; precision is 40 of 80, 0.5.',
    },
    named([
      ['precision', 'recall'],
      ['recall', 'precision'],
      ...(['macro', 'weighted'] as const).flatMap((of) => [
        [`${of}_precision`, `${of}_recall`] as const,
        [`${of}_recall`, `${of}_precision`] as const,
      ]),
    ]),
  ),
  givenFor(
    {
      id: 'specificity-for-recall',
      title: 'specificity for recall',
      says: 'You gave the share of the negative rows that were named correctly, where recall is asked.',
      remedy:
        'Recall, or sensitivity, is of the positive rows alone. Specificity is the same of the negative ones.',
      example:
        'Of 50 lost colonies 40 are found; of 150 that survived 140 are named correctly. Recall is 0.8, specificity 0.933.',
    },
    named([['recall', 'specificity']]),
  ),
  valueSlip(
    {
      id: 'other-class-positive',
      title: 'the other class as positive',
      says: 'Your figure takes the other class as the positive one.',
      remedy:
        'The question names the positive class. Many libraries take the label that sorts last, or 1: name the class when you call them.',
      example:
        'Where “lost” is positive and 40 of 50 lost colonies are found, recall is 0.8; with “survived” as positive and 140 of 150 found it is 0.933.',
    },
    (asked, { labels }) => (labels ? metricOn(asked, otherPositive(labels)) : []),
  ),
  valueSlip(
    {
      id: 'matrix-transposed',
      title: 'matrix transposed',
      says: 'You read the confusion matrix the other way round: predictions as truth.',
      remedy:
        'Look which of rows and columns are the truth before you add up. A row of truth adds up to the rows of that class.',
      example:
        'With 10 lost colonies named surviving and 40 surviving named lost, the false negatives of “lost” are 10, and not 40.',
    },
    (asked, { labels, figures }) => {
      if (!labels) return [];
      const cell = { 'false positives': 'false negatives', 'false negatives': 'false positives' }[asked];
      const value = cell === undefined ? undefined : figures[cell];
      return value === undefined ? metricOn(asked, transposed(labels)) : [value];
    },
  ),
  givenFor(
    {
      id: 'error-for-accuracy',
      title: 'error rate for accuracy',
      says: 'You gave the share of wrong rows, where the share of right ones is asked.',
      remedy:
        'Accuracy is 1 less the error rate. A figure below 0.5 for a useful model of two classes is a sign.',
      example: 'Of 200 colonies 30 are named incorrectly: the error rate is 0.15, the accuracy 0.85.',
    },
    named([['accuracy', 'error_rate']]),
  ),
  givenFor(
    {
      id: 'accuracy-for-balanced',
      title: 'accuracy for balanced accuracy',
      says: 'You gave plain accuracy, where every class counts alike.',
      remedy:
        'Balanced accuracy is the mean of the recalls of the classes. Where classes are of unequal size it differs from accuracy.',
      example: 'With recalls of 0.9 in 180 rows and 0.5 in 20, accuracy is 0.86 and balanced accuracy 0.7.',
    },
    named([['balanced_accuracy', 'accuracy']]),
  ),
  givenFor(
    {
      id: 'macro-micro-exchanged',
      title: 'macro and micro average exchanged',
      says: 'You gave the micro average where the macro average is asked, or the other way round.',
      remedy:
        'A macro average computes the figure for each class and takes the plain mean. A micro average adds up the counts of all classes first.',
      example:
        'Recalls of 0.9, 0.8 and 0.1 have the macro average 0.6; where the last class has few rows the micro average is near 0.85.',
    },
    named([...averages('macro', 'micro'), ...averages('micro', 'macro')]),
  ),
  givenFor(
    {
      id: 'weighted-for-macro',
      title: 'weighted for macro average',
      says: 'You weighed the classes by their rows, where every class counts alike.',
      remedy: 'A macro average is the plain mean over the classes. A weighted one counts each by its rows.',
      example:
        'Recalls of 0.9 in 90 rows and 0.5 in 10 have the macro average 0.7 and the weighted one 0.86.',
    },
    named(averages('macro', 'weighted')),
  ),
  valueSlip(
    {
      id: 'f1-arithmetic-mean',
      title: 'F1 as an arithmetic mean',
      says: 'You took the plain mean of precision and recall.',
      remedy: 'F1 is the harmonic mean, 2pr / (p + r). It is near the smaller of the two.',
      example: 'Precision 0.9 and recall 0.3 have the plain mean 0.6 and the F1 0.45.',
    },
    (asked, { figures }) =>
      ['', 'macro_'].flatMap((of) => {
        const [p, r] = [figures[nameOf(`${of}precision`)], figures[nameOf(`${of}recall`)]];
        return asked === nameOf(`${of}f1`) && p !== undefined && r !== undefined ? [(p + r) / 2] : [];
      }),
  ),
  givenFor(
    {
      id: 'kappa-without-chance',
      title: 'kappa without chance',
      says: 'You gave the agreement itself, and did not take off what chance would give.',
      remedy:
        'Kappa is (observed less expected agreement) over (1 less expected). The expected one follows from the margins of the table.',
      example: 'Observed agreement 0.9 with 0.8 expected by chance gives a kappa of 0.5.',
    },
    [...named([['kappa', 'accuracy']]), ['kappa of the two', 'agreement']],
  ),
  givenFor(
    {
      id: 'training-rows',
      title: 'figure of the training rows',
      says: 'Your figure is that of the rows that the model was fitted to.',
      remedy:
        'A model is judged on rows that it has not seen. Predict each fold by the model that was fitted to the others.',
      example: 'A tree without a limit has accuracy 1 on its own rows and 0.78 over folds.',
    },
    [['mean over the folds', 'score on the training rows']],
  ),
  givenFor(
    {
      id: 'npv-for-precision',
      title: 'negative predictive value for precision',
      says: 'You looked at the rows that were named negative, where precision asks of those named positive.',
      remedy:
        'Precision is of the rows that were named positive. The same of those named negative is the negative predictive value.',
      example:
        'Of 80 colonies named lost 40 are; of 120 named surviving 110 are. Precision is 0.5, the other 0.917.',
    },
    named([['precision', 'npv']]),
  ),
  givenFor(
    {
      id: 'false-positive-rate-for-specificity',
      title: 'false-positive rate for specificity',
      says: 'You gave the share of the negative rows that were named incorrectly.',
      remedy:
        'Specificity is 1 less the false-positive rate. It counts the negative rows that were named correctly.',
      example:
        'Of 150 colonies that survived 10 are named lost: the false-positive rate is 0.067, specificity 0.933.',
    },
    named([['specificity', 'fpr']]),
  ),
];
