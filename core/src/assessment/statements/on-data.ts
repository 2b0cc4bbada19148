import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { tallyOf } from '../../foundation/statistics/tally.js';
import { summarise } from '../../data/profile/number-summary.js';
import { countCodes, labelsOf } from '../../data/table/labels.js';
import { featuresOf } from '../../data/table/roles.js';
import { columnNamed, isCoded } from '../../data/table/table.js';
import { fitTo } from '../generators/of-models/fitted-model.js';
import type { LibraryStatement } from './library-statement.js';

/** Classes of a column that a statement counts, at most. */
const MOST_LEVELS = 30;
/** Natural logarithms of two effects lie at least so far apart. */
const CLEAR = Math.log(1.2);

/** Statements whose truth is computed from the training rows. */
export const ON_DATA: readonly LibraryStatement[] = [
  {
    key: 'most-frequent',
    title: 'what the most frequent class scores',
    source: 'computed from the training rows',
    objection: 'The limit lies two points at least from the share.',
    from: 'data',
    compute({ table, roles }, random) {
      if (roles.task === 'regression')
        throw new SieveError('reading', 'The most frequent class needs a target of classes.', {
          field: 'statements',
        });
      const { labels, codes } = labelsOf(columnNamed(table, roles.target));
      const counts = countCodes(codes, labels.length);
      const share = (100 * Math.max(...counts)) / counts.reduce((a, b) => a + b, 0);
      const right = random.below(2) === 1;
      const limit = right ? Math.floor(share) - 2 : Math.ceil(share) + 2;
      return {
        truth: share > limit,
        text: `Always predicting the most frequent class of “${roles.target}” predicts more than ${limit} % of the training rows correctly.`,
      };
    },
  },
  {
    key: 'mean-median',
    title: 'mean and median of the target',
    source: 'computed from the training rows',
    objection: 'Where both are equal neither is above: then the statement is false.',
    from: 'data',
    compute({ table, roles }, random) {
      const column = columnNamed(table, roles.target);
      if (roles.task !== 'regression' || isCoded(column))
        throw new SieveError('reading', 'Mean and median need a target of numbers.', { field: 'statements' });
      const sorted = column.values.filter((value) => !Number.isNaN(value)).sort();
      const mean = sorted.reduce((a, b) => a + b, 0) / sorted.length;
      const middle = (at(sorted, (sorted.length - 1) >> 1) + at(sorted, sorted.length >> 1)) / 2;
      const above = random.below(2) === 1;
      return {
        truth: above ? mean > middle : mean < middle,
        text: `In the training rows the mean of “${roles.target}” lies ${above ? 'above' : 'below'} its median.`,
      };
    },
  },
  {
    key: 'columns-of-levels',
    title: 'how many columns of noughts and ones a column of classes takes',
    source: 'James, Witten, Hastie and Tibshirani, An Introduction to Statistical Learning, 2nd ed., 3.3.1',
    objection: 'It is said of a model with an intercept, in which all columns together would be collinear.',
    from: 'data',
    compute({ table, roles }, random) {
      const columns = featuresOf(table, roles).flatMap((column) => {
        const { labels, codes } = labelsOf(columnNamed(table, column.name));
        const present = countCodes(codes, labels.length).filter((n) => n > 0).length;
        return column.kind === 'category' && present > 2 && present <= MOST_LEVELS
          ? [{ name: column.name, present }]
          : [];
      });
      if (columns.length === 0)
        throw new SieveError(
          'reading',
          `Columns of noughts and ones need a feature of three to ${MOST_LEVELS} classes.`,
          { field: 'statements' },
        );
      const { name, present } = at(columns, random.below(columns.length));
      const truth = random.below(2) === 1;
      return {
        truth,
        text: `“${name}” has ${present} different values in the training rows: beside an intercept a linear model takes ${truth ? present - 1 : present} columns of noughts and ones for it, and any more would be a sum of the others.`,
      };
    },
  },
  {
    key: 'coefficient-and-unit',
    title: 'a larger coefficient as a larger effect, whatever the units',
    source: 'computed from the training rows: a linear regression on the numeric features',
    objection:
      'It is said per standard deviation of each column, in one model, and two effects that are nearly equal are never compared.',
    from: 'data',
    compute({ table, roles }, random) {
      const columns = featuresOf(table, roles).flatMap((column) => {
        const own = columnNamed(table, column.name);
        const { sd } = own.kind === 'number' ? summarise(tallyOf(own.values)) : { sd: null };
        return sd !== null && sd > 0 ? [{ name: column.name, sd }] : [];
      });
      if (roles.task !== 'regression' || columns.length < 2)
        throw new SieveError(
          'reading',
          'Coefficients in different units need a target of numbers and two numeric features.',
          { field: 'statements' },
        );
      const names = columns.map(({ name }) => name);
      const { fitted } = fitTo(table, roles, { model: 'linear', features: names });
      const effects = columns.flatMap(({ name, sd }) => {
        const estimate = fitted.description.coefficients?.find(({ term }) => term === name)?.estimate ?? null;
        return estimate === null ? [] : [{ name, size: Math.abs(estimate), effect: Math.abs(estimate) * sd }];
      });
      const pairs = effects.flatMap((one) =>
        effects
          .filter(({ size, effect }) => one.size > size && Math.abs(Math.log(one.effect / effect)) > CLEAR)
          .map((other) => ({ one, other })),
      );
      if (pairs.length === 0)
        throw new SieveError('reading', 'No two coefficients have effects that are clearly apart.', {
          field: 'statements',
        });
      const { one, other } = at(pairs, random.below(pairs.length));
      const saysLarger = random.below(2) === 1;
      return {
        truth: saysLarger === one.effect > other.effect,
        text: `In a linear regression of “${roles.target}” on ${names.map((name) => `“${name}”`).join(', ')}, fitted to the training rows, the coefficient of “${one.name}” is larger in size than that of “${other.name}”, ${saysLarger ? 'and so is' : 'but not'} the change of the prediction for one standard deviation more of each.`,
      };
    },
  },
];
