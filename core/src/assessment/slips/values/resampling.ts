import { at } from '../../../foundation/numbers.js';
import { givenFor, valueSlip, type ValueSlip } from './value-slip.js';

const MEAN = ['mean', 'mean over the folds', 'mean of the folds'];
const SD = ['standard deviation', 'standard deviation over the folds'];
const SE = ['standard error', 'standard error over the folds', 'standard error of the folds'];

/** Sum of squares about the mean. */
function about(scores: readonly number[]): number {
  const mean = scores.reduce((a, b) => a + b, 0) / scores.length;
  return scores.reduce((sum, score) => sum + (score - mean) ** 2, 0);
}

export const RESAMPLING_SLIPS: readonly ValueSlip[] = [
  valueSlip(
    {
      id: 'deviation-for-standard-error',
      title: 'standard deviation for standard error',
      says: 'You gave the standard deviation, where the standard error of the mean is asked.',
      remedy:
        'Divide the standard deviation by the root of the number of folds. The deviation says how far folds differ, the error how well their mean is known.',
      example: 'Five folds with the deviation 0.05 have the standard error 0.05 / √5, 0.022.',
    },
    (asked, { scores }) =>
      scores && SE.includes(asked) ? [Math.sqrt(about(scores) / (scores.length - 1))] : [],
  ),
  valueSlip(
    {
      id: 'population-deviation',
      title: 'population for sample deviation',
      says: 'You divided by the number of values, where one less is asked.',
      remedy:
        'Folds are a sample: divide by their number less one. Some libraries divide by the number itself unless told otherwise.',
      example: 'Squares about the mean of 0.01 over five folds: √(0.01 / 4) is 0.05, √(0.01 / 5) is 0.045.',
    },
    (asked, { scores, list }) => {
      const values = scores ?? (list ? Array.from(list) : null);
      if (!values) return [];
      const sd = Math.sqrt(about(values) / values.length);
      if (SD.includes(asked)) return [sd];
      return SE.includes(asked) ? [sd / Math.sqrt(values.length)] : [];
    },
  ),
  valueSlip(
    {
      id: 'pooled-for-mean',
      title: 'all rows at once for the mean over folds',
      says: 'You judged all rows at once, where the mean of the folds is asked.',
      remedy:
        'Compute the figure in each fold, then take the plain mean. Folds of unequal size make a difference.',
      example: 'Folds of 10 and 30 rows with 0.6 and 0.9 have the mean 0.75; of all 40 rows 0.825 are right.',
    },
    (asked, { pooled }) => (pooled !== undefined && MEAN.includes(asked) ? [pooled] : []),
  ),
  valueSlip(
    {
      id: 'best-fold-for-mean',
      title: 'best fold for the mean',
      says: 'You gave the figure of the best fold.',
      remedy: 'Report the mean over all folds with its standard error. The best of several folds is lucky.',
      example: 'Folds of 0.78, 0.81 and 0.90 have the mean 0.83; 0.90 is that of one fold.',
    },
    (asked, { scores, figures }) =>
      scores && MEAN.includes(asked)
        ? [figures['score of the best fold'] ?? figures.highest ?? Math.max(...scores)]
        : [],
  ),
  valueSlip(
    {
      id: 'single-split-for-mean',
      title: 'one split for the mean',
      says: 'You gave the figure of the first fold alone.',
      remedy:
        'Each fold is held out once, and the mean over all of them is the estimate. One split says less.',
      example: 'Folds of 0.78, 0.81 and 0.90 have the mean 0.83; the first alone has 0.78.',
    },
    (asked, { scores }) => (scores && MEAN.includes(asked) ? [at(scores, 0)] : []),
  ),
  givenFor(
    {
      id: 'best-for-one-standard-error',
      title: 'the best setting for the one-standard-error choice',
      says: 'You gave the setting with the best mean, where the simplest within one standard error is asked.',
      remedy:
        'Take the best mean less its own standard error as the limit. The simplest setting at least as good as the limit is the choice.',
      example: 'Depth 5 has 0.84 ± 0.02, depth 3 has 0.83: by the rule depth 3 is taken.',
    },
    [['simplest depth within one standard error', 'best depth']],
  ),
  valueSlip(
    {
      id: 'fits-added-not-multiplied',
      title: 'numbers added instead of multiplied',
      says: 'You added the numbers of settings, where every pair is tried.',
      remedy:
        'A grid tries every pair: multiply the numbers of values. Each pair is fitted once in each fold.',
      example: '8 values of one setting and 4 of another over 10 folds are 8 × 4 × 10 fits, 320.',
    },
    (asked, { mistaken }) => mistaken?.['fits-added-not-multiplied']?.[asked] ?? [],
  ),
];
