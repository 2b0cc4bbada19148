import { SieveError } from '../../../foundation/errors.js';
import type { Figure } from '../../../metrics/metric.js';
import { summarise } from '../../../data/profile/number-summary.js';
import { cellText, columnNamed, isCoded } from '../../../data/table/table.js';
import { numberOf } from '../../../data/table/cell.js';
import { tallyOf } from '../../../foundation/statistics/tally.js';
import { askedOf, figures, generator } from '../generator.js';
import { valueCounts } from '../of-data/column-counts.js';
import { givenOf } from '../of-data/rows.js';

/** Density of a normal distribution. */
const normal = (x: number, mean: number, sd: number): number =>
  Math.exp(-0.5 * ((x - mean) / sd) ** 2) / (sd * Math.sqrt(2 * Math.PI));

const kernelWords = (width: number): string =>
  `By kernels: the mean, over the rows of the class, of normal densities around each value with standard deviation ${width}.`;

export const likelihood = generator({
  key: 'likelihood',
  title: 'a likelihood of naive Bayes',
  about:
    'How likely a value is in a class: of a number by a normal distribution with the mean and the standard deviation (n) of the class’s rows, which is what naive Bayes with normal densities takes, or by kernels of a stated width: the mean of normal densities around each value of the class; of a category by counts with a number added to each (Laplace: 1). The prior is the class’s share of the rows.',
  text: 'In the training rows, how likely is the value {value} of **{column}** in the class “{class}” of **{target}**? {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    column: { type: 'column', label: 'column' },
    value: { type: 'text', label: 'value', start: '' },
    class: { type: 'text', label: 'class', start: '' },
    added: { type: 'number', label: 'number added to each count', min: 0, start: 1 },
    width: {
      type: 'number',
      label: 'standard deviation of each kernel, 0 for one normal distribution',
      min: 0,
      start: 0,
      optional: true,
    },
    asked: figures(
      ['likelihood', 'prior of the class', 'mean of the class', 'standard deviation of the class'],
      ['likelihood', 'prior of the class'],
    ),
  },
  sentence: () =>
    'Ask for {asked} of the value {value} of {column} in the class {class} of the training rows; {added} is added to each count, kernels have width {width}.',
  check: (_, __, { task }) => {
    if (task === 'regression')
      throw new SieveError('no-figure', 'A likelihood of a class needs a target of classes.', {
        field: 'class',
      });
  },
  compute({ column: name, value, class: given, added, width = 0, asked }, { table, roles }) {
    const target = columnNamed(table, roles.target);
    const column = columnNamed(table, name);
    const label = given.trim();
    const rows = Array.from({ length: table.rowCount }, (_, row) => row);
    const labelled = rows.filter((row) => cellText(target, row) !== null);
    const own = labelled.filter((row) => cellText(target, row) === label);
    if (own.length === 0)
      throw new SieveError('no-figure', `No training row is of the class “${label}”.`, { field: 'class' });
    const none: Figure = { value: null, reason: `${name} holds no numbers` };
    const base = {
      ...givenOf(table, 'training'),
      column: name,
      value: value.trim(),
      class: label,
      target: roles.target,
    };
    const prior = own.length / labelled.length;
    if (isCoded(column)) {
      const levels = valueCounts(column, table.rowCount).map(([level]) => level);
      if (!levels.includes(value.trim()))
        throw new SieveError('no-figure', `No training row has “${value}” in ${name}.`, { field: 'value' });
      const texts = own.flatMap((row) => cellText(column, row) ?? []);
      const hits = texts.filter((text) => text === value.trim()).length;
      return {
        given: { ...base, notes: `By counts, with ${added} added to the count of each value.` },
        table: null,
        asked: askedOf(
          {
            likelihood: (hits + added) / (texts.length + added * levels.length),
            'prior of the class': prior,
            'mean of the class': none,
            'standard deviation of the class': none,
          },
          asked,
        ),
      };
    }
    const x = numberOf(value.trim());
    if (Number.isNaN(x)) throw new SieveError('no-figure', `“${value}” is no number.`, { field: 'value' });
    const values = own.map((row) => column.values[row] ?? NaN).filter((one) => !Number.isNaN(one));
    if (values.length === 0)
      throw new SieveError('no-figure', `No row of the class “${label}” has a value of ${name}.`, {
        field: 'column',
      });
    const tally = tallyOf(Float64Array.from(values));
    const { mean, sd } = summarise(tally);
    const deviation = (sd ?? NaN) * Math.sqrt((tally.total - 1) / tally.total);
    const density =
      width > 0
        ? values.reduce((sum, value) => sum + normal(x, value, width), 0) / values.length
        : normal(x, mean, deviation);
    const orNot = (figure: number): Figure =>
      deviation > 0 ? { value: figure } : { value: null, reason: 'the class’s values do not vary' };
    return {
      given: {
        ...base,
        notes: width > 0 ? kernelWords(width) : 'By a normal distribution, its standard deviation with n.',
      },
      table: null,
      asked: askedOf(
        {
          likelihood: width > 0 ? density : orNot(density),
          'prior of the class': prior,
          'mean of the class': mean,
          'standard deviation of the class': orNot(deviation),
        },
        asked,
      ),
    };
  },
});
