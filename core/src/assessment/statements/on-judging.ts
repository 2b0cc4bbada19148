import type { LibraryStatement } from './library-statement.js';
import { oneOf, saidOf, says } from './wordings.js';

/** Mistakes in judging a model: each is said as it is made, and as it should be. Sources are named from memory. */
export const ON_JUDGING: readonly LibraryStatement[] = [
  {
    key: 'best-fold',
    title: 'the best fold’s model kept',
    source: 'Hastie, Tibshirani and Friedman, 7.10',
    objection:
      'A best score is chosen among several and so too favourable: it is said of it as a guide alone.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        saidOf(
          4,
          10,
          (k) => `Of ${k} folds the one with the best score shows how good the model is on new rows.`,
        ),
      ),
      says(
        true,
        saidOf(
          4,
          10,
          (k) => `The mean over ${k} folds is a fairer guide to new rows than the score of the best fold.`,
        ),
      ),
      says(true, () => 'Which fold has the best score depends on which rows it holds, and so on luck.'),
    ),
  },
  {
    key: 'training-accuracy',
    title: 'training accuracy as quality',
    source: 'Hastie, Tibshirani and Friedman, 7.2',
    objection: 'Single samples may go either way: “tends to” is said, and “shows” is denied.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        saidOf(
          90,
          99,
          (n) =>
            `A deep tree that predicts ${n} % of its training rows correctly has thereby shown that it predicts about ${n} % of new rows correctly.`,
        ),
      ),
      says(
        true,
        () =>
          'The accuracy of a model on the rows that it was fitted to tends to be higher than on new rows.',
      ),
    ),
  },
  {
    key: 'chosen-on-test',
    title: 'depth chosen on the test rows',
    source: 'Cawley and Talbot, Journal of Machine Learning Research 11, 2010',
    objection: 'With very many test rows the bias is small, but it is there: “on average” is said.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        saidOf(
          5,
          20,
          (n) =>
            `Of trees of ${n} depths the one with the best accuracy on the test rows is kept. This accuracy is an unbiased estimate for new rows.`,
        ),
      ),
      says(
        true,
        saidOf(
          5,
          20,
          (n) =>
            `Of trees of ${n} depths the one with the best accuracy on the test rows is kept. On average this accuracy is too favourable for new rows.`,
        ),
      ),
    ),
  },
  {
    key: 'choosing-and-judging',
    title: 'the same rows for choosing and judging',
    source: 'Varma and Simon, BMC Bioinformatics 7, 2006',
    objection: 'Rows that are used for both are no longer new, however they were drawn at first.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        () =>
          'Held-out rows may be used to choose between models as often as one likes: since no model is fitted to them, they stay as good as new.',
      ),
      says(
        true,
        () =>
          'Settings are chosen on one part of the rows or inside folds, and the chosen model is judged on rows that had no part in it.',
      ),
    ),
  },
  {
    key: 'no-seed',
    title: 'no seed as robustness',
    source: 'Bouthillier, Laurent and Vincent, International Conference on Machine Learning, 2019',
    objection: 'A seed makes a result repeatable, not right: several of them show how much it varies.',
    from: 'chance',
    say: oneOf(
      says(false, () => 'A result is robust if no seed is set, since it then does not depend on one.'),
      says(
        true,
        () =>
          'A seed makes a random split repeatable; how much a result depends on the split is seen from several seeds.',
      ),
    ),
  },
  {
    key: 'shuffled-series',
    title: 'a shuffled split of a series',
    source: 'Bergmeir and Benítez, Information Sciences 191, 2012',
    objection:
      'Without dependence in time shuffling does no harm: neighbouring days that resemble one another are named.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        () =>
          'Days that follow one another resemble one another. A model for next month is judged fairly on days that were drawn at random from the same months as its training days.',
      ),
      says(
        true,
        () =>
          'Days that follow one another resemble one another. A model for next month is judged on days that come after all its training days.',
      ),
    ),
  },
  {
    key: 'filling',
    title: 'scaling or filling before the split',
    source:
      'Kaufman, Rosset, Perlich and Stitelman, ACM Transactions on Knowledge Discovery from Data 6, 2012',
    objection: 'The harm may be small: it is said where the numbers belong, not how much they do.',
    from: 'chance',
    say: oneOf(
      says(
        false,
        () =>
          'The means that missing cells are filled with are best computed over all rows, held-out ones too, since more rows give better means.',
      ),
      says(
        true,
        () =>
          'The means that missing cells are filled with, and the deviations that columns are scaled by, are learned from the training rows and applied to the held-out rows.',
      ),
    ),
  },
];
