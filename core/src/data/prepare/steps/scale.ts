import { SieveError } from '../../../foundation/errors.js';
import { summarise } from '../../profile/number-summary.js';
import { tallyOf } from '../../../foundation/statistics/tally.js';
import { chosen } from '../rows.js';
import { stepKind, withColumns } from '../step.js';

export const scale = stepKind({
  key: 'scale',
  title: 'Scale numbers',
  about:
    'Standard: minus the mean, by the standard deviation (n − 1, as R’s scale has it). Smallest and largest: to run from 0 to 1. A unit: times a given factor. A column that does not vary cannot be scaled by its spread.',
  parameters: {
    columns: { type: 'columns', label: 'the columns of numbers', of: ['number'] },
    how: {
      type: 'choice',
      label: 'how',
      choices: [
        { value: 'standard', text: 'mean 0 and standard deviation 1' },
        { value: 'min-max', text: 'run from 0 to 1' },
        { value: 'factor', text: 'another unit' },
      ],
    },
    factor: { type: 'number', label: 'the factor of the unit', start: 1 },
  },
  sentence: ({ how }) =>
    how === 'factor' ? 'Scale {columns} to {how}, times {factor}.' : 'Scale {columns} to {how}.',
  learns: ({ how }) => how !== 'factor',
  apply: (table, { columns, how, factor }) => ({
    table: withColumns(
      table,
      chosen(table, columns).map((column) => {
        if (column.kind !== 'number') return column;
        const [shift, divisor] =
          how === 'factor' ? [0, 1 / factor] : spreadOf(column.name, column.values, how);
        const values = column.values.map((value) =>
          how === 'factor' ? value * factor : (value - shift) / divisor,
        );
        return { ...column, values };
      }),
    ),
  }),
});

function spreadOf(name: string, values: Float64Array, how: 'standard' | 'min-max'): [number, number] {
  const tally = tallyOf(values);
  if (tally.values.length < 2)
    throw new SieveError('step', `${name} does not vary, so it cannot be scaled by its spread.`, {
      field: 'columns',
    });
  const { mean, sd, min, max } = summarise(tally);
  return how === 'standard' ? [mean, sd ?? NaN] : [min, max - min];
}
