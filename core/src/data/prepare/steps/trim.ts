import { MISSING_MARKERS } from '../../table/cell.js';
import { recoded } from '../../table/recode.js';
import { isCoded } from '../../table/table.js';
import { chosen } from '../rows.js';
import { never, stepKind, withColumns } from '../step.js';

export const trim = stepKind({
  key: 'trim',
  title: 'Trim blanks',
  about:
    'Takes blanks off the beginning and the end of texts. What then is nothing, “?”, “NA”, “N/A”, “NaN” or “null” may become missing.',
  parameters: {
    columns: { type: 'columns', label: 'the columns to trim', none: 'all columns' },
    markers: {
      type: 'choice',
      label: 'what becomes of marks of missing values',
      choices: [
        { value: 'missing', text: 'become missing' },
        { value: 'kept', text: 'are kept' },
      ],
    },
  },
  sentence: () => 'Trim blanks in {columns}; marks of missing values such as “?” {markers}.',
  learns: never,
  apply: (table, { columns, markers }) => ({
    table: withColumns(
      table,
      chosen(table, columns).map((column) =>
        isCoded(column)
          ? recoded(column, (text) => {
              const trimmed = text.trim();
              return markers === 'missing' && MISSING_MARKERS.includes(trimmed) ? null : trimmed;
            })
          : column,
      ),
    ),
  }),
});
