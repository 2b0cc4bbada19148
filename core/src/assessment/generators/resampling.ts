import { summariseFolds } from '../../evaluation/comparison/over-folds.js';
import { at } from '../../foundation/numbers.js';
import { about, askedOf, decimal, generator, figures, whole } from './generator.js';

export const foldScores = generator({
  key: 'fold-scores',
  title: 'scores over folds',
  about:
    'One score for each fold. Standard deviation with k − 1; standard error is the deviation over the root of the number of folds. Five or ten folds, with little gained beyond (common practice).',
  text: 'A model was tried by {k}-fold cross-validation. The table gives its accuracy in each fold.',
  from: 'chance',
  parameters: {
    k: { type: 'number', label: 'folds', min: 3, max: 20, step: 1, start: 5 },
    asked: figures(
      ['mean', 'standard deviation', 'standard error', 'lowest', 'highest'],
      ['mean', 'standard error'],
    ),
  },
  sentence: () => 'Draw the scores of {k} folds, and ask for {asked}.',
  draw({ k, asked }, random) {
    const middle = decimal(random, 0.68, 0.86, 2);
    const scores = Array.from({ length: k }, () => Math.min(0.99, about(random, middle, 0.035, 3)));
    const over = summariseFolds(scores.map((value) => ({ value })));
    const none = { value: null, reason: 'there are too few folds' } as const;
    const [sd, se] = over.mean === null ? [null, null] : [over.sd, over.se];
    return {
      given: { k: String(k) },
      table: {
        header: ['fold', 'accuracy'],
        rows: scores.map((score, i) => [String(i + 1), score.toFixed(3)]),
      },
      asked: askedOf(
        {
          mean: over.mean ?? none,
          'standard deviation': sd ?? none,
          'standard error': se ?? none,
          lowest: Math.min(...scores),
          highest: Math.max(...scores),
        },
        asked,
        { workings: { scores } },
      ),
    };
  },
});

export const foldCounts = generator({
  key: 'fold-counts',
  title: 'right rows in folds of unequal size',
  about:
    'Rows and right rows of each fold, where whole groups make folds unequal. The mean over the folds is the plain mean of their accuracies; standard error with k − 1, over the root of the number of folds.',
  text: 'A model was tried by {k}-fold cross-validation with whole apiaries in a fold. The table gives the rows of each fold, and how many were predicted correctly.',
  from: 'chance',
  parameters: {
    k: { type: 'number', label: 'folds', min: 3, max: 12, step: 1, start: 5 },
    asked: figures(
      ['mean of the folds', 'standard error of the folds', 'share of all rows'],
      ['mean of the folds'],
    ),
  },
  sentence: () => 'Draw the right rows of {k} folds of unequal size, and ask for {asked}.',
  draw({ k, asked }, random) {
    const folds = Array.from({ length: k }, (_, fold) => {
      const rows = whole(random, 15, 40) + (fold % 2) * whole(random, 20, 60);
      return { rows, right: whole(random, Math.ceil(rows * 0.55), rows - 1) };
    });
    const scores = folds.map(({ rows, right }) => right / rows);
    const over = summariseFolds(scores.map((value) => ({ value })));
    const sum = (of: 'rows' | 'right') => folds.reduce((all, fold) => all + fold[of], 0);
    const pooled = sum('right') / sum('rows');
    const none = { value: null, reason: 'there are too few folds' } as const;
    return {
      given: { k: String(k) },
      table: {
        header: ['fold', 'rows', 'right'],
        rows: folds.map(({ rows, right }, i) => [String(i + 1), String(rows), String(right)]),
      },
      asked: askedOf(
        {
          'mean of the folds': over.mean ?? none,
          'standard error of the folds': over.mean === null ? none : (over.se ?? none),
          'share of all rows': pooled,
        },
        asked,
        { workings: { scores, pooled } },
      ),
    };
  },
});

const BEST = 'best depth';
const SIMPLEST = 'simplest depth within one standard error';

export const settingsTable = generator({
  key: 'settings-table',
  title: 'a table of settings',
  about:
    'Mean and standard error over folds by depth. The best has the highest mean; by the one-standard-error rule the simplest is taken whose mean is at least the best less its standard error (Breiman and others, 1984, 3.4.3).',
  text: 'Trees of {settings} depths were tried by {k}-fold cross-validation. The table gives mean accuracy and its standard error.',
  from: 'chance',
  parameters: {
    settings: { type: 'number', label: 'depths', min: 4, max: 15, step: 1, start: 8 },
    k: { type: 'number', label: 'folds', min: 2, max: 20, step: 1, start: 10 },
    asked: figures([BEST, SIMPLEST, 'training errors at the best depth'], [BEST, SIMPLEST]),
  },
  sentence: () => 'Draw a table of {settings} depths over {k} folds, and ask for {asked}.',
  draw({ settings, k, asked }, random) {
    const peak = whole(random, 3, settings - 1);
    const rows = Array.from({ length: settings }, (_, i) => {
      const depth = i + 1;
      const bend = depth < peak ? 0.022 * (peak - depth) ** 1.2 : 0.008 * (depth - peak);
      return {
        depth,
        mean: Number((0.83 - bend + about(random, 0, 0.004, 3)).toFixed(3)),
        se: decimal(random, 0.012, 0.024, 3),
        train: Math.min(1, Number((0.72 + 0.28 * (1 - Math.exp(-depth / 4))).toFixed(3))),
      };
    });
    const best = rows.reduce((so, row) => (row.mean > so.mean ? row : so));
    const ties = rows.filter((row) => row.mean === best.mean).length > 1;
    const limit = best.mean - best.se;
    // A mean that lies on the limit would depend on how it is rounded.
    const onLimit = rows.some((row) => row !== best && Math.abs(row.mean - limit) < 0.0005);
    const simplest = rows.find((row) => row.mean >= limit) ?? best;
    const unclear = { value: null, reason: 'two depths are equally good' } as const;
    return {
      given: { settings: String(settings), k: String(k) },
      table: {
        header: ['depth', 'training accuracy', 'mean accuracy', 'standard error'],
        rows: rows.map(({ depth, train, mean, se }) => [
          String(depth),
          train.toFixed(3),
          mean.toFixed(3),
          se.toFixed(3),
        ]),
      },
      asked: askedOf(
        {
          [BEST]: ties ? unclear : best.depth,
          [SIMPLEST]: ties || onLimit || simplest === best ? unclear : simplest.depth,
          'training errors at the best depth': ties ? unclear : 1 - at(rows, best.depth - 1).train,
        },
        asked,
      ),
    };
  },
});

export const gridFits = generator({
  key: 'grid-fits',
  title: 'a grid with folds',
  about:
    'How many times a model is fitted in a grid of two settings over folds; with the last fit on all training rows, where that is asked. 8 × 4 settings over 10 folds are 320 fits.',
  text: 'A grid has {a} values of the one setting and {b} of the other. Each pair is tried by {k}-fold cross-validation of {n} rows.',
  from: 'chance',
  parameters: {
    largest: { type: 'number', label: 'values of a setting', min: 2, max: 30, step: 1, start: 10 },
    asked: figures(['fits', 'fits with the refit', 'rows of each test fold'], ['fits']),
  },
  sentence: () => 'Draw a grid of up to {largest} values of each of two settings, and ask for {asked}.',
  draw({ largest, asked }, random) {
    const [a, b] = [whole(random, 2, largest), whole(random, 2, largest)];
    const k = at([5, 10], random.below(2));
    const n = k * whole(random, 20, 200);
    return {
      given: { a: String(a), b: String(b), k: String(k), n: String(n) },
      table: null,
      asked: askedOf(
        { fits: a * b * k, 'fits with the refit': a * b * k + 1, 'rows of each test fold': n / k },
        asked,
        {
          workings: {
            mistaken: {
              'fits-added-not-multiplied': {
                fits: [(a + b) * k, a + b + k],
                'fits with the refit': [(a + b) * k + 1, a + b + k + 1, (a + b) * k, a + b + k],
              },
            },
          },
        },
      ),
    };
  },
});
