import { count, at, quantile } from '../../foundation/numbers.js';
import { apportion } from '../../splitting/algorithms/apportion.js';
import { summarise } from '../../data/profile/number-summary.js';
import { tallyOf } from '../../foundation/statistics/tally.js';
import { decimal, generator, askedOf, figures, whole } from './generator.js';

/** Common practice: test shares. */
const SHARES = [10, 15, 20, 25, 30] as const;

export const splitSizes = generator({
  key: 'split-sizes',
  title: 'sizes of a split',
  about:
    'Rows of each part and, with equal shares of the classes, rows of the positive class in each. Numbers are drawn so that all are whole: 1,000 rows at 30 % give 700 and 300. Test shares of 10 to 30 % are common practice.',
  text: 'A table of {n} rows, of which {positive} % are “yes”, is split with equal shares of both classes: {share} % for testing, the rest for training.',
  from: 'chance',
  parameters: {
    largest: { type: 'number', label: 'rows at most', min: 400, max: 100000, step: 1, start: 4000 },
    asked: figures(
      ['training rows', 'test rows', 'positive training rows', 'positive test rows'],
      ['training rows', 'positive test rows'],
    ),
  },
  sentence: () => 'Draw a split of up to {largest} rows, and ask for {asked}.',
  draw({ largest, asked }, random) {
    // Whole hundreds and shares of five percent: every count is a whole number.
    const n = 400 * whole(random, 1, Math.floor(largest / 400));
    const share = at(SHARES, random.below(SHARES.length));
    const positive = 5 * whole(random, 2, 10);
    const [test = 0, training = 0] = apportion(n, [share / 100, 1 - share / 100]);
    const yes = (rows: number) => Math.round((rows * positive) / 100);
    return {
      given: { n: count(n), positive: String(positive), share: String(share) },
      table: null,
      asked: askedOf(
        {
          'training rows': training,
          'test rows': test,
          'positive training rows': yes(training),
          'positive test rows': yes(test),
        },
        asked,
      ),
    };
  },
});

export const listSummary = generator({
  key: 'summary',
  title: 'a list of numbers',
  about:
    'Summary figures of a short list: standard deviation with n − 1, quartiles by linear interpolation (type 7 of Hyndman and Fan, 1996), bias-corrected skewness.',
  text: 'These weights were noted, in kilograms: {list}.',
  from: 'chance',
  parameters: {
    rows: { type: 'number', label: 'numbers', min: 4, max: 30, step: 1, start: 9 },
    asked: figures(
      [
        'mean',
        'median',
        'standard deviation',
        'lower quartile',
        'upper quartile',
        'interquartile range',
        'skewness',
      ],
      ['median', 'standard deviation'],
    ),
  },
  sentence: () => 'Draw a list of {rows} numbers, and ask for {asked}.',
  draw({ rows, asked }, random) {
    const list = Float64Array.from({ length: rows }, () => decimal(random, 3, 60, 1));
    const sorted = list.slice().sort();
    const { mean, median, sd, q1, q3, skewness } = summarise(tallyOf(list));
    const none = { value: null, reason: 'the numbers do not vary' } as const;
    return {
      given: { list: Array.from(list, (value) => value.toFixed(1)).join(', '), n: String(rows) },
      table: null,
      asked: askedOf(
        {
          mean,
          median,
          'standard deviation': sd ?? none,
          'lower quartile': q1,
          'upper quartile': q3,
          'interquartile range': quantile(sorted, 0.75) - quantile(sorted, 0.25),
          skewness: skewness ?? none,
        },
        asked,
        { workings: { list } },
      ),
    };
  },
});
