import { at, counted, indices, shortNumber } from '../../../foundation/numbers.js';
import { normalTwoSided } from '../../../foundation/statistics/distributions.js';
import { fileSlip, type FileSlip } from '../../slips/contract/file-slip.js';
import { better, isInPlace, leadWords, RELATED, reordered, type PredictedFile } from './paired.js';
import { sortedPlaces } from '../../files/identifier-order.js';
import { varies } from '../folds/fold-figures.js';
import { bestRelabelling } from './relabelled.js';
import { rescaled, type Rescaling } from './rescaled.js';

/** Chance that the best of several relabellings is as good by accident. */
const RELABELLED_BY_CHANCE = 0.0005;
/** Rows by which a file may be shifted. */
const SHIFTS = [1, -1, 2, -2, 3, -3];
const FEWEST_ROWS = 20;
/** Rows up to which orders of the identifiers are tried: sorting a million takes longer than marking them. */
const MOST_ORDERED = 100_000;

const invert = (order: Int32Array): Int32Array => {
  const out = new Int32Array(order.length);
  order.forEach((place, rank) => (out[place] = rank));
  return out;
};

const rescaling =
  (slip: Rescaling['slip']) =>
  (file: PredictedFile): string | null => {
    const found = rescaled(file);
    return found?.slip === slip ? found.evidence : null;
  };

/** Whether labels fit far better under other names. */
const relabels = (file: PredictedFile): string | null => {
  const { predictions, key } = file;
  if (predictions.kind !== 'labels' || !key.classes || key.classes.length < FEWEST_ROWS) return null;
  const found = bestRelabelling(predictions.predicted, key);
  if (!found || found.agreement < RELATED) return null;
  const plain = { ...predictions, probabilities: null };
  const ahead = better({ ...file, predictions: plain }, { ...plain, predicted: found.predicted });
  return ahead !== null && found.tried * normalTwoSided(ahead) < RELABELLED_BY_CHANCE
    ? `with labels exchanged it is ${leadWords(ahead)}`
    : null;
};

const asGiven = ({ predictions }: PredictedFile): boolean =>
  predictions.kind === 'labels' && !predictions.derived;

/** Mistakes in a file of predictions that could be read. */
export const PREDICTION_SLIPS: readonly FileSlip<PredictedFile>[] = [
  fileSlip({
    id: 'labels-exchanged',
    title: 'labels exchanged',
    from: 'key',
    says: 'Your labels seem to be exchanged: under other names they would fit far better.',
    remedy:
      'Look at which code stands for which label before you write the file. Encoders sort labels; a list that you typed may not be sorted.',
    example:
      'An encoder makes “lost” 0 and “survived” 1; turned back with [“survived”, “lost”] every label is wrong.',
    test: (file) => (asGiven(file) ? relabels(file) : null),
  }),
  fileSlip({
    id: 'probability-of-other-class',
    title: 'probability of the other class',
    from: 'key',
    says: 'Your probabilities seem to be those of another class.',
    remedy:
      'Libraries give a column for each class, in the order of the labels. Take the column of the class that the file names.',
    example: 'Columns for “lost”, “survived”: the first is the probability of “lost”.',
    test(file) {
      const { predictions, key } = file;
      if (predictions.kind !== 'labels' || !predictions.probabilities || !key.classes) return null;
      if (isInPlace(file)) return null;
      if (key.labels.length !== 2) return asGiven(file) ? null : relabels(file);
      const [first = new Float64Array(), second = new Float64Array()] = predictions.probabilities;
      const ahead = better(file, {
        ...predictions,
        predicted: predictions.predicted.map((code) => 1 - code),
        probabilities: [second, first],
      });
      return ahead === null ? null : `with the probabilities of the other class it is ${leadWords(ahead)}`;
    },
  }),
  fileSlip({
    id: 'rows-shifted',
    title: 'rows shifted',
    from: 'key',
    says: 'Your predictions seem to be shifted against the rows.',
    remedy:
      'A header that was read as a row, or an index from 1, shifts everything by one. Write predictions beside the identifiers that they were made from.',
    example: 'The prediction of hive 12 stands beside hive 13, that of hive 13 beside hive 14.',
    test(file) {
      const { predictions, identifiers } = file;
      const n = identifiers.length;
      if (n < FEWEST_ROWS || isInPlace(file)) return null;
      const found = SHIFTS.map((by) => ({
        by,
        ahead: better(
          file,
          reordered(
            predictions,
            indices(n).map((row) => (row + by + n) % n),
          ),
        ),
      })).filter((one) => one.ahead !== null);
      const best = found.sort((a, b) => (b.ahead ?? 0) - (a.ahead ?? 0))[0];
      return best ? `shifted by ${counted(best.by, 'row')} it is ${leadWords(best.ahead ?? 0)}` : null;
    },
  }),
  fileSlip({
    id: 'rows-sorted',
    title: 'rows sorted',
    from: 'key',
    says: 'Your predictions seem to be in the order of sorted identifiers, beside identifiers in the order of the file.',
    remedy:
      'Sorting or grouping a table changes the order of its rows. Keep the identifier beside the prediction through every step.',
    example:
      'A join sorts the hives by name; its predictions are then written beside the names of the first table.',
    test({ predictions, identifiers, key }) {
      if (identifiers.length < FEWEST_ROWS || identifiers.length > MOST_ORDERED) return null;
      if (isInPlace({ predictions, key })) return null;
      const order = sortedPlaces(identifiers);
      if (!order) return null;
      const ahead = better({ predictions, key }, reordered(predictions, invert(order)));
      return ahead === null ? null : `read in the order of the identifiers it is ${leadWords(ahead)}`;
    },
  }),
  fileSlip({
    id: 'file-order-assumed',
    title: 'identifiers ignored',
    from: 'key',
    says: 'Your predictions seem to be in the order of the file, beside identifiers in another order.',
    remedy:
      'Rows are found by their identifiers, not by their place. Take the identifiers from the file that you predicted.',
    example: 'Identifiers written as 1, 2, 3 … beside predictions in the order of the file.',
    test({ predictions, identifiers, key }) {
      if (identifiers.length < FEWEST_ROWS || identifiers.length > MOST_ORDERED) return null;
      if (isInPlace({ predictions, key })) return null;
      const order = sortedPlaces(identifiers);
      if (!order) return null;
      const ahead = better({ predictions, key }, reordered(predictions, order));
      return ahead === null ? null : `read in the order of the file it is ${leadWords(ahead)}`;
    },
  }),
  fileSlip({
    id: 'logarithm-of-target',
    title: 'logarithm of the target',
    from: 'key',
    says: 'Your predictions seem to be logarithms.',
    remedy: 'A model of the logarithm predicts logarithms. Turn them back before you write the file.',
    example: 'A yield of 20 kg has the natural logarithm 3.0.',
    test: rescaling('logarithm-of-target'),
  }),
  fileSlip({
    id: 'factor-of-unit',
    title: 'another unit',
    from: 'key',
    says: 'Your predictions seem to be in another unit.',
    remedy:
      'Predict in the unit of the target column. Look whether you converted it while you prepared the data.',
    example: '23,500 g beside a column in kg, where 23.5 is meant.',
    test: rescaling('factor-of-unit'),
  }),
  fileSlip({
    id: 'standardised-target',
    title: 'standardised target',
    from: 'key',
    says: 'Your predictions seem to be standardised.',
    remedy:
      'A model of a standardised target predicts deviations from its mean. Turn them back by the same mean and deviation.',
    example: 'A mean of 22 kg and a deviation of 5 kg: 0.4 means 24 kg.',
    test: rescaling('standardised-target'),
  }),
  fileSlip({
    id: 'constant',
    title: 'the same prediction everywhere',
    from: 'form',
    says: 'Every row has the same prediction.',
    remedy:
      'Look whether the model was fitted to its features at all. A column of missing values, or a penalty that is too large, leaves the mean alone.',
    example: 'A lasso with a very large penalty predicts the mean for every hive.',
    test: ({ predictions }) => (varies(predictions) ? null : 'one prediction for all rows'),
  }),
  fileSlip({
    id: 'other-threshold',
    title: 'another threshold',
    from: 'form',
    says: 'Your labels do not follow from your probabilities at 0.5.',
    remedy:
      'Say the label of the class whose probability is larger, unless the question names a threshold. Make labels and probabilities from the same model.',
    example: 'A probability of 0.45 is named “lost” at a threshold of 0.4, and “survived” at 0.5.',
    test({ predictions, key }) {
      if (predictions.kind !== 'labels' || predictions.derived || !predictions.probabilities) return null;
      if (key.labels.length !== 2) return null;
      const { predicted } = predictions;
      let [top, bottom] = [-Infinity, Infinity];
      at(predictions.probabilities, 1).forEach((chance, row) => {
        if (predicted[row] === 0) top = Math.max(top, chance);
        else bottom = Math.min(bottom, chance);
      });
      if (!Number.isFinite(top) || !Number.isFinite(bottom)) return null;
      // The labels follow from a threshold, and it is not a half.
      return top < bottom && (bottom < 0.5 || top > 0.5)
        ? `labels follow from a threshold between ${shortNumber(top, 3)} and ${shortNumber(bottom, 3)}`
        : null;
    },
  }),
];
