import { SieveError } from '../../../foundation/errors.js';
import { columnOf } from '../../formula/formula.js';
import { never, stepKind, withColumns } from '../step.js';

export const compute = stepKind({
  key: 'compute',
  title: 'Compute a column',
  about: 'Adds a column that a formula gives, or puts it in place of the one of that name.',
  parameters: {
    name: { type: 'text', label: 'the name of the column', start: '' },
    formula: { type: 'formula', label: 'the formula', start: '' },
  },
  sentence: () => 'Compute {name} as {formula}.',
  learns: never,
  apply: (table, { name, formula }) => {
    const trimmed = name.trim();
    if (trimmed === '') throw new SieveError('step', 'Write the name of the column.', { field: 'name' });
    return { table: withColumns(table, [columnOf(table, formula, trimmed, 'formula')]) };
  },
});
