import { at } from '../../../foundation/numbers.js';
import { metricNamed } from '../../../metrics/registry.js';
import type { NumberData } from '../../../metrics/metric.js';
import { nameOf } from './metric-names.js';
import { changed, givenFor, valueSlip, type ValueSlip } from './value-slip.js';

const RMSE = nameOf('rmse');
const MSE = nameOf('mse');
const R2 = nameOf('r2');

/** Sum of squared errors, of as many rows. */
function squares({ truth, predicted }: NumberData): { sum: number; n: number } {
  let sum = 0;
  for (let i = 0; i < truth.length; i++) sum += (at(predicted, i) - at(truth, i)) ** 2;
  return { sum, n: truth.length };
}

/** A mean squared error with another divisor, and its root. */
const dividedBy = (asked: string, numbers: NumberData | undefined, less: number | undefined): number[] => {
  if (!numbers || less === undefined) return [];
  const { sum, n } = squares(numbers);
  if (n <= less) return [];
  if (asked === MSE) return [sum / (n - less)];
  return asked === RMSE ? [Math.sqrt(sum / (n - less))] : [];
};

/** Errors that carry the unit of the target, or its square. */
const IN_UNITS = (['rmse', 'mae', 'median_ae', 'max_error', 'mean_error', 'mse'] as const).map(metricNamed);

export const REGRESSION_SLIPS: readonly ValueSlip[] = [
  givenFor(
    {
      id: 'mse-for-rmse',
      title: 'mean squared error without its root',
      says: 'You did not take the root of the mean squared error.',
      remedy:
        'The root mean squared error is in the unit of the target. Take the root of the mean of the squares.',
      example: 'Errors of 3 and 4 kg have squares of 9 and 16: their mean is 12.5, its root 3.54 kg.',
    },
    [[RMSE, MSE]],
  ),
  givenFor(
    {
      id: 'rmse-for-mse',
      title: 'root for the mean squared error',
      says: 'You took the root, where the mean of the squares is asked.',
      remedy: 'The mean squared error is in the square of the target’s unit. Leave the root out.',
      example: 'Errors of 3 and 4 kg have the mean squared error 12.5 kg²; its root is 3.54 kg.',
    },
    [[MSE, RMSE]],
  ),
  givenFor(
    {
      id: 'mae-for-rmse',
      title: 'mean absolute for root mean squared error',
      says: 'You took the mean of the absolute errors.',
      remedy: 'Square the errors, take their mean, then the root. Large errors weigh more by it.',
      example: 'Errors of 1 and 7 kg have the mean absolute error 4 and the root mean squared error 5.',
    },
    [[RMSE, nameOf('mae')]],
  ),
  valueSlip(
    {
      id: 'divided-by-n-minus-1',
      title: 'divided by n − 1',
      says: 'You divided by the number of rows less one.',
      remedy:
        'A mean squared error is a mean: divide by the number of rows. n − 1 belongs to a sample variance.',
      example: 'Squares that add up to 90 over 10 rows have the mean 9, and not 10.',
    },
    (asked, { numbers, mistaken }) => [
      ...dividedBy(asked, numbers, 1),
      ...(mistaken?.['divided-by-n-minus-1']?.[asked] ?? []),
    ],
  ),
  valueSlip(
    {
      id: 'divided-by-n-minus-p',
      title: 'divided by n − p',
      says: 'You divided by other degrees of freedom than the figure takes.',
      remedy:
        'A mean squared error of predictions divides by the rows. The residual standard error of a regression divides by the rows less the coefficients, the intercept among them.',
      example:
        'Squares that add up to 90 over 10 rows with 4 features: the mean is 9; the residual variance is 90 / 5.',
    },
    (asked, { numbers, features, mistaken }) => [
      ...(features === undefined
        ? []
        : [features, features + 1].flatMap((less) => dividedBy(asked, numbers, less))),
      ...(mistaken?.['divided-by-n-minus-p']?.[asked] ?? []),
    ],
  ),
  valueSlip(
    {
      id: 'correlation-for-r2',
      title: 'correlation for R²',
      says: 'You gave the correlation of truth and prediction, where R² is asked.',
      remedy:
        'R² is 1 less the sum of squared errors over that about the mean. A model whose predictions are shifted or stretched may have a high correlation and a low R².',
      example: 'Predictions that are all 10 kg too high may have the correlation 0.95 and an R² below 0.',
    },
    (asked, { figures, mistaken }) => {
      const correlation = figures[nameOf('pearson')];
      return [
        ...(asked === R2 && correlation !== undefined ? [correlation] : []),
        ...(mistaken?.['correlation-for-r2']?.[asked] ?? []),
      ];
    },
  ),
  valueSlip(
    {
      id: 'squared-correlation-for-r2',
      title: 'squared correlation for R²',
      says: 'You squared the correlation of truth and prediction.',
      remedy:
        'On the rows of a least-squares fit both are the same, on other rows they are not. R² is 1 less the squared errors over those about the mean.',
      example:
        'Predictions that are all 10 kg too high may have the squared correlation 0.9 and an R² below 0.',
    },
    (asked, { figures }) => {
      const correlation = figures[nameOf('pearson')];
      return asked === R2 && correlation !== undefined ? [correlation ** 2] : [];
    },
  ),
  valueSlip(
    {
      id: 'adjusted-r2',
      title: 'adjusted for plain R²',
      says: 'You gave adjusted R², where plain R² is asked.',
      remedy: 'The adjusted one takes off what features add by chance. Use it where the question names it.',
      example: 'R² of 0.60 of 20 rows with 4 features is 0.49 when adjusted.',
    },
    (asked, { figures, numbers, features }) => {
      const right = figures[asked];
      if (right === undefined || ![R2, 'R² of the fit'].includes(asked)) return [];
      const adjusted = figures['adjusted R²'];
      if (adjusted !== undefined) return [adjusted];
      const n = numbers?.truth.length ?? 0;
      return features === undefined || n <= features + 1
        ? []
        : [1 - ((1 - right) * (n - 1)) / (n - features - 1)];
    },
  ),
  valueSlip(
    {
      id: 'r2-against-training-mean',
      title: 'R² against the training mean',
      says: 'You compared with the mean of the training rows.',
      remedy:
        'R² here compares with the mean of the rows that are judged. Libraries do so too; with the training mean the figure is another one.',
      example:
        'Squared errors of 40 over 100 about the own mean are 0.6; about a training mean, with 120, they are 0.667.',
    },
    (asked, { numbers, trainingMean }) => {
      if (asked !== R2 || !numbers || trainingMean === undefined) return [];
      const about = numbers.truth.reduce((sum, value) => sum + (value - trainingMean) ** 2, 0);
      return about > 0 ? [1 - squares(numbers).sum / about] : [];
    },
  ),
  changed(
    {
      id: 'sign-of-error',
      title: 'sign of the error',
      says: 'You took truth less prediction.',
      remedy:
        'An error here is prediction less truth: positive where too much is predicted. Residuals have the other sign.',
      example: 'Predicted 25 kg where 22 kg were found: the error is 3, the residual −3.',
    },
    (asked) => asked === nameOf('mean_error'),
    (right) => [-right],
  ),
  changed(
    {
      id: 'factor-1000',
      title: 'another unit',
      says: 'Your figure is in another unit, a thousand times as large or as small.',
      remedy:
        'Give the figure in the unit of the table. A squared error changes by the square of the factor.',
      example: '3.5 kg are 3,500 g.',
    },
    (asked) => IN_UNITS.some(({ name }) => name === asked),
    (right, _, asked) => (asked === MSE ? [right * 1e6, right / 1e6] : [right * 1000, right / 1000]),
  ),
  valueSlip(
    {
      id: 'logarithm',
      title: 'error of logarithms',
      says: 'You computed the error of logarithms.',
      remedy:
        'Turn predictions of a logarithm back before you judge them. Errors are in the unit of the target.',
      example: '20 and 22 kg differ by 2 kg; their natural logarithms differ by 0.095.',
    },
    (asked, { numbers }) => {
      const metric = IN_UNITS.find(({ name }) => name === asked);
      if (!numbers || metric?.needs !== 'numbers') return [];
      return [Math.log, Math.log1p].flatMap((log) => {
        const { value } = metric.compute({
          ...numbers,
          truth: numbers.truth.map(log),
          predicted: numbers.predicted.map(log),
        });
        return value !== null && Number.isFinite(value) ? [value] : [];
      });
    },
  ),
];
