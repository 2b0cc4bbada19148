import { SieveError } from '../../../foundation/errors.js';
import { never, stepKind, withoutColumns } from '../step.js';

export const dropColumns = stepKind({
  key: 'drop-columns',
  title: 'Drop columns',
  about: 'Leaves columns out: identifiers, columns that give the answer away, columns without use.',
  parameters: { columns: { type: 'columns', label: 'the columns to drop' } },
  sentence: () => 'Drop the columns {columns}.',
  learns: never,
  apply: (table, { columns }) => {
    if (table.columns.every(({ name }) => columns.includes(name)))
      throw new SieveError('step', 'No column would be left.', { field: 'columns' });
    return { table: withoutColumns(table, columns) };
  },
});
