import { summarise } from '../../profile/number-summary.js';
import { tallyOf } from '../../../foundation/statistics/tally.js';
import { chosen, keepRows } from '../rows.js';
import { always, stepKind } from '../step.js';

const FENCES = 1.5;

export const dropOutliers = stepKind({
  key: 'drop-outliers',
  title: 'Drop outliers',
  about:
    'Leaves out rows in which a number lies too far out. By quartiles: more than so many times their distance below the first or above the third (Tukey, Exploratory Data Analysis, 1977, takes 1.5). By deviations: more than so many standard deviations (n − 1) from the mean. A missing cell is no outlier.',
  reason: 'outliers',
  parameters: {
    columns: { type: 'columns', label: 'the columns of numbers', of: ['number'] },
    times: { type: 'number', label: 'how many times', min: 0, start: FENCES },
    rule: {
      type: 'choice',
      label: 'the rule',
      choices: [
        { value: 'quartiles', text: 'the distance of the quartiles beyond them' },
        { value: 'deviations', text: 'the standard deviation from the mean' },
      ],
    },
  },
  sentence: () => 'Drop rows whose {columns} lies more than {times} times {rule}.',
  learns: always,
  apply: (table, { columns, times, rule }) => {
    const bounds = chosen(table, columns).flatMap((column) => {
      if (column.kind !== 'number') return [];
      const tally = tallyOf(column.values);
      if (tally.total < 2) return [];
      const { mean, sd, q1, q3 } = summarise(tally);
      const [low, high, unit] = rule === 'quartiles' ? [q1, q3, q3 - q1] : [mean, mean, sd ?? NaN];
      return [{ values: column.values, from: low - times * unit, to: high + times * unit }];
    });
    return keepRows(
      table,
      (row) =>
        !bounds.some(({ values, from, to }) => (values[row] ?? NaN) < from || (values[row] ?? NaN) > to),
    );
  },
});
