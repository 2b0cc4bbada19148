import { SieveError } from '../../../foundation/errors.js';
import { columnNamed } from '../../table/table.js';
import { labelsOf } from '../../table/labels.js';
import { numberOf } from '../../table/cell.js';
import { numbersByText, recoded } from '../../table/recode.js';
import { never, stepKind, withColumns } from '../step.js';

export const mergeValues = stepKind({
  key: 'merge-values',
  title: 'Merge values that mean the same',
  about:
    'Makes one value of several of a column, or of several columns at once: other spellings, or answers that mean the same.',
  parameters: {
    values: { type: 'texts', label: 'the values to merge' },
    column: { type: 'column', label: 'the column', of: ['category', 'text', 'boolean'] },
    also: {
      type: 'columns',
      label: 'other columns',
      of: ['category', 'text', 'boolean'],
      none: 'no other column',
      optional: true,
    },
    into: { type: 'text', label: 'what they become', start: '' },
  },
  sentence: () => 'Take {values} in {column} and {also} as {into}.',
  learns: never,
  // Steps of earlier versions are of one column.
  apply: (table, { values, column, into, also = [] }) => {
    const merged = new Set(values);
    const changed = [...new Set([column, ...also])].map((name) => {
      const own = recoded(columnNamed(table, name), (text) => (merged.has(text) ? into : text));
      return own.kind === 'boolean' ? { ...own, kind: 'category' as const } : own;
    });
    return { table: withColumns(table, changed) };
  },
});

export const mapToNumbers = stepKind({
  key: 'map-to-numbers',
  title: 'Map values to numbers',
  about:
    'Gives each value of a column a number: yes 1, no 0. Values without one stop the step, or become missing.',
  parameters: {
    column: { type: 'column', label: 'the column', of: ['category', 'text', 'boolean'] },
    numbers: { type: 'pairs', label: 'the number of each value' },
    otherwise: {
      type: 'choice',
      label: 'what becomes of other values',
      choices: [
        { value: 'refuse', text: 'stop this step' },
        { value: 'missing', text: 'become missing' },
      ],
    },
  },
  sentence: () => 'Map {column} to numbers: {numbers}; other values {otherwise}.',
  learns: never,
  apply: (table, { column, numbers, otherwise }) => {
    const given = new Map(
      numbers.map(([text = '', number = '']) => {
        const value = numberOf(number);
        if (Number.isNaN(value))
          throw new SieveError('step', `“${number}”, for ${text}, is not a number.`, { field: 'numbers' });
        return [text, value] as const;
      }),
    );
    const old = columnNamed(table, column);
    const lacking = labelsOf(old).labels.find((label) => !given.has(label));
    if (lacking !== undefined && otherwise === 'refuse')
      throw new SieveError('step', `“${lacking}” has no number.`, { field: 'numbers' });
    const values = numbersByText(old, (text) => given.get(text) ?? NaN);
    return { table: withColumns(table, [{ kind: 'number', name: column, values }]) };
  },
});
