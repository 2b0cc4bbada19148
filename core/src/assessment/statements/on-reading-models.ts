import { whole } from '../generators/generator.js';
import type { LibraryStatement } from './library-statement.js';
import { oneOf, saidOf, says } from './wordings.js';

/** Mistakes in reading a model's figures: each is said as it is made, and as it should be. Sources are named from memory. */
export const ON_READING_MODELS: readonly LibraryStatement[] = [
  {
    key: 'small-coefficient',
    title: 'a small coefficient as unimportant',
    source: 'Gelman and Hill, Data Analysis Using Regression and Multilevel/Hierarchical Models, 2007, 4.2',
    objection: 'A penalty depends on units: least squares alone is spoken of.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        (r) =>
          `A column whose coefficient is 0.00${whole(r, 1, 9)} matters less than one whose coefficient is ${whole(r, 2, 9)}, whatever their units are.`,
      ),
      says(
        true,
        () =>
          'If a weight is given in grams instead of kilograms, its coefficient in a least-squares model is a thousandth, and no prediction changes.',
      ),
    ),
  },
  {
    key: 'many-values',
    title: 'importance of a column with many values',
    source: 'Strobl, Boulesteix, Zeileis and Hothorn, BMC Bioinformatics 8, 2007',
    objection:
      'Of columns that do tell something the order may be right: columns that tell nothing are spoken of.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        () =>
          'The fall of impurity at a tree’s splits ranks columns fairly, however many different values they have.',
      ),
      says(
        true,
        () =>
          'Of two columns that tell nothing of the target, the one with more different values tends to get the larger importance by the fall of impurity.',
      ),
    ),
  },
  {
    key: 'all-dummies',
    title: 'all dummy columns kept',
    source: 'Greene, Econometric Analysis, 7th ed., 6.2',
    objection: 'With a penalty all dummies can be kept: least squares with an intercept is named.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        saidOf(
          3,
          12,
          (k) =>
            `For a category with ${k} values least squares with an intercept needs ${k} dummy columns, so that each value has a coefficient of its own that is determined.`,
        ),
      ),
      says(
        true,
        saidOf(
          3,
          12,
          (k) =>
            `For a category with ${k} values least squares with an intercept takes ${k - 1} dummy columns: with ${k} the coefficients would not be determined.`,
        ),
      ),
    ),
  },
  {
    key: 'rare-class',
    title: 'accuracy under imbalance',
    source: 'He and Garcia, IEEE Transactions on Knowledge and Data Engineering 21, 2009',
    objection: 'The share and the accuracy are the same number, so that nothing has to be found for it.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        saidOf(
          90,
          98,
          (n) =>
            `Of the rows ${n} % are negative. An accuracy of ${n} % shows that a model finds positive rows.`,
        ),
      ),
      says(
        true,
        saidOf(
          90,
          98,
          (n) =>
            `Of the rows ${n} % are negative. An accuracy of ${n} % can be reached without finding a single positive row.`,
        ),
      ),
    ),
  },
  {
    key: 'p-as-size',
    title: 'p as effect size',
    source: 'Wasserstein and Lazar, The American Statistician 70, 2016',
    objection: 'p depends on size and number of rows together: neither can be read off it alone.',
    from: 'chance',
    say: oneOf(
      says(false, (r) => `A p of 0.000${whole(r, 1, 9)} shows that an effect is large.`),
      says(true, () => 'With enough rows an effect that is too small to matter gets a small p.'),
    ),
  },
  {
    key: 'r2-on-training',
    title: 'R² on training rows',
    source: 'Greene, Econometric Analysis, 7th ed., 3.5',
    objection:
      'Of least squares with nested columns this is exact; of adjusted R² and of new rows it is not said.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        () =>
          'A column of random numbers that is added to a least-squares model lowers R² on its training rows, so that one sees that it is useless.',
      ),
      says(
        true,
        () =>
          'A column of random numbers that is added to a least-squares model never lowers R² on its training rows.',
      ),
    ),
  },
];
