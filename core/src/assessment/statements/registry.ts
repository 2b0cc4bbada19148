import { decimal, whole } from '../generators/generator.js';
import { SieveError } from '../../foundation/errors.js';
import type { LibraryStatement } from './library-statement.js';
import { ON_DATA } from './on-data.js';
import { ON_JUDGING } from './on-judging.js';
import { ON_READING_MODELS } from './on-reading-models.js';
import { oneOf, saidOf, says } from './wordings.js';

/** The library of readings, in the order in which a menu has it. */
export const LIBRARY_STATEMENTS: readonly LibraryStatement[] = [
  {
    key: 'r2',
    title: 'R² as the share of points on the line',
    source: 'Hastie, Tibshirani and Friedman, The Elements of Statistical Learning, 2nd ed., 3.2',
    objection: '“Explained” is not “caused”: it is said of variation alone.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        saidOf(55, 92, (n) => `An R² of ${n} % means that ${n} % of the points lie on the line.`),
      ),
      says(
        true,
        saidOf(55, 92, (n) => `An R² of ${n} % means that ${n} % of the variation is explained.`),
      ),
    ),
  },
  {
    key: 'area',
    title: 'area as accuracy',
    source: 'Hanley and McNeil, Radiology 143, 1982',
    objection:
      'Equal probabilities count half: “higher” leaves them to the definition of the question on areas.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        saidOf(
          62,
          95,
          (n) =>
            `An area under the ROC curve of 0.${n} means that ${n} % of the rows are predicted correctly.`,
        ),
      ),
      says(
        true,
        (r) =>
          `An area under the ROC curve of 0.${whole(r, 62, 95)} is the chance that a positive row gets a higher probability than a negative one.`,
      ),
      says(true, () => 'A model that draws its probabilities at random has an area of about 0.5.'),
    ),
  },
  {
    key: 'residuals',
    title: 'zero mean residual as proof of normality',
    source: 'McCullagh and Nelder, Generalized Linear Models, 2nd ed., chapter 12',
    objection: 'Without an intercept the mean need not be 0: the intercept is named.',
    from: 'chance',
    say: oneOf(
      says(false, () => 'Residuals whose mean is 0 are normally distributed.'),
      says(
        true,
        () =>
          'The residuals of a least-squares line with an intercept have a mean of 0 on the rows it was fitted to, whatever their distribution.',
      ),
    ),
  },
  {
    key: 'deviation',
    title: 'deviation for standard error',
    source: 'Bengio and Grandvalet, Journal of Machine Learning Research 5, 2004',
    objection:
      'Folds share training rows, so that no unbiased estimate of the variance exists: it is called a guide.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        (r) =>
          `Over ${whole(r, 5, 10)} folds the standard deviation of the scores says how far their mean is off.`,
      ),
      says(true, (r) => {
        const k = whole(r, 4, 10);
        return `Over ${k} folds the standard deviation of the scores divided by the square root of ${k} is a guide to the standard error of their mean.`;
      }),
    ),
  },
  {
    key: 'replacement',
    title: 'folds as sampling with replacement',
    source: 'Hastie, Tibshirani and Friedman, 7.10',
    objection: 'Repeated cross-validation tests a row once in each repeat: a single one is meant.',
    from: 'chance',
    say: oneOf(
      says(false, (r) => `In ${whole(r, 5, 10)}-fold cross-validation a row may be tested in several folds.`),
      says(true, (r) => `In ${whole(r, 5, 10)}-fold cross-validation each row is tested exactly once.`),
      says(false, () => 'Folds are drawn with replacement, so that some rows are tested in none of them.'),
    ),
  },
  {
    key: 'gap',
    title: 'any gap as overfitting',
    source: 'Mitchell, Machine Learning, 1997, 3.7',
    objection:
      'A gap alone is no fault: it takes another model that is worse on training rows and better on new ones.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        (r) =>
          `A model with a training accuracy of 0.9${whole(r, 2, 8)} and a lower one on held-out rows is overfitted for that alone.`,
      ),
      says(
        true,
        () =>
          'A model is overfitted where another one fits the training rows less well and does better on new rows.',
      ),
      says(false, () => 'A model that fits its training rows perfectly is the best there is.'),
    ),
  },
  {
    key: 'scaling',
    title: 'steps that look at the target before the split',
    source: 'Hastie, Tibshirani and Friedman, 7.10.2',
    objection:
      'Steps that look at no target may be done before the split: only steps that look at it are spoken of.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        () =>
          'Features may be selected by their correlation with the target over all rows, held-out ones too, before a model is judged on these.',
      ),
      says(
        true,
        () =>
          'Selecting features by their correlation with the target belongs inside each fold, on its training rows alone.',
      ),
    ),
  },
  {
    key: 'fits',
    title: 'fits of a grid',
    source: 'counted',
    objection: 'Whether the last fit on all rows counts is said.',
    from: 'chance',
    say: (random) => {
      const [a, b, k] = [whole(random, 3, 9), whole(random, 3, 9), random.below(2) ? 5 : 10];
      const right = random.below(2) === 1;
      return {
        truth: right,
        text: `A grid of ${a} × ${b} settings over ${k} folds takes ${right ? a * b * k : (a + b) * k} fits, without the refit.`,
      };
    },
  },
  {
    key: 'inflation',
    title: 'variance inflation',
    source: 'Belsley, Kuh and Welsch, Regression Diagnostics, 1980',
    objection: 'The wrong figure differs by more than the digit shown, for every R² that is drawn.',
    from: 'chance',
    say: (random) => {
      // From 0.62 on 1 / (1 − R²) and 1 / R² differ by a half and more.
      const r2 = decimal(random, 0.62, 0.96, 2);
      const right = random.below(2) === 1;
      const said = right ? 1 / (1 - r2) : 1 / r2;
      return {
        truth: right,
        text: `A feature that the others explain with an R² of ${r2.toFixed(2)} has a variance inflation of about ${said.toFixed(1)}.`,
      };
    },
  },
  ...ON_JUDGING,
  ...ON_READING_MODELS,
  ...ON_DATA,
];

/** @throws SieveError `plan-kind` */
export const libraryStatementOf = (key: string): LibraryStatement => {
  const found = LIBRARY_STATEMENTS.find((reading) => reading.key === key);
  if (!found) throw new SieveError('plan-kind', `There is no reading “${key}”.`, { field: 'statements' });
  return found;
};
