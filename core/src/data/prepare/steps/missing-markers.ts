import { isCoded } from '../../table/table.js';
import { recoded } from '../../table/recode.js';
import { chosen } from '../rows.js';
import { never, stepKind, withColumns } from '../step.js';

export const missingMarkers = stepKind({
  key: 'missing-markers',
  title: 'Mark cells as missing',
  about: 'Makes cells missing that hold one of some texts, such as −9 or “unknown”.',
  parameters: {
    texts: { type: 'texts', label: 'the texts that mean missing' },
    columns: { type: 'columns', label: 'the columns in which they do', none: 'all columns' },
  },
  sentence: () => 'Take {texts} in {columns} as missing.',
  learns: never,
  apply: (table, { texts, columns }) => {
    const markers = new Set(texts);
    const numbers = new Set(texts.filter((text) => text.trim() !== '').map(Number));
    return {
      table: withColumns(
        table,
        chosen(table, columns).map((column) =>
          isCoded(column)
            ? recoded(column, (text) => (markers.has(text) ? null : text))
            : column.kind === 'number'
              ? { ...column, values: column.values.map((value) => (numbers.has(value) ? NaN : value)) }
              : column,
        ),
      ),
    };
  },
});
