import { truthOf } from '../../formula/formula.js';
import { firstAlike } from '../../table/same-rows.js';
import { isMissing } from '../../table/table.js';
import { chosen, keepRows } from '../rows.js';
import { never, stepKind } from '../step.js';

export const dropMissing = stepKind({
  key: 'drop-missing',
  title: 'Drop rows with missing cells',
  about:
    'Leaves out rows in which any, or all, of some columns are missing: rows without a label, for instance.',
  reason: 'with a missing cell',
  parameters: {
    how: {
      type: 'choice',
      label: 'how many must be missing',
      choices: [
        { value: 'any', text: 'any' },
        { value: 'all', text: 'all' },
      ],
    },
    columns: { type: 'columns', label: 'the columns to look at', none: 'the columns' },
  },
  sentence: () => 'Drop rows in which {how} of {columns} are missing.',
  learns: never,
  apply: (table, { how, columns }) => {
    const looked = chosen(table, columns);
    return keepRows(table, (row) =>
      how === 'any'
        ? !looked.some((column) => isMissing(column, row))
        : !looked.every((column) => isMissing(column, row)),
    );
  },
});

export const dropRepeated = stepKind({
  key: 'drop-repeated',
  title: 'Drop repeated rows',
  about: 'Leaves out rows that are the same as an earlier one in some columns; missing cells are alike.',
  reason: 'repeated',
  parameters: { columns: { type: 'columns', label: 'the columns to compare', none: 'all columns' } },
  sentence: () => 'Drop rows that repeat an earlier one in {columns}.',
  learns: never,
  apply: (table, { columns }) => {
    const first = firstAlike(chosen(table, columns), table.rowCount);
    return keepRows(table, (row) => first[row] === row);
  },
});

export const dropWhere = stepKind({
  key: 'drop-where',
  title: 'Drop rows by a condition',
  about: 'Leaves out rows for which a condition holds. Where a cell of it is missing it does not hold.',
  reason: 'by a condition',
  parameters: { condition: { type: 'formula', label: 'the condition', start: '' } },
  sentence: () => 'Drop rows where {condition}.',
  learns: never,
  apply: (table, { condition }) => {
    const holds = truthOf(table, condition, 'condition');
    return keepRows(table, (row) => holds[row] !== 1);
  },
});
