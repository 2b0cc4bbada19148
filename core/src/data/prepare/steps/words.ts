import { commonWords, countsOfWord } from '../../table/words.js';
import { columnNamed, isCoded } from '../../table/table.js';
import { checkNew } from '../rows.js';
import { always, stepKind, withColumns } from '../step.js';

export const wordCounts = stepKind({
  key: 'word-counts',
  title: 'Count words',
  about:
    'Adds a column for each of the words that occur in the most rows of a text column, with how often it occurs in each row. Words are runs of letters and digits, in small letters; of words in equally many rows the first in alphabetical order by code unit is taken.',
  parameters: {
    count: { type: 'number', label: 'how many words', min: 1, max: 1000, step: 1, start: 20 },
    column: { type: 'column', label: 'the column of texts', of: ['text', 'category'] },
  },
  sentence: () => 'Count the {count} most common words of {column}.',
  learns: always,
  apply: (table, { count, column: name }) => {
    const column = columnNamed(table, name);
    if (!isCoded(column)) return { table };
    const added = commonWords(column.levels, column.codes, count).map((word) => {
      const ofLevel = countsOfWord(column.levels, word);
      const added = `${name}: ${word}`;
      checkNew(table, added, 'column');
      const values = Float64Array.from(column.codes, (code) => (code < 0 ? NaN : (ofLevel[code] ?? 0)));
      return { kind: 'number' as const, name: added, values };
    });
    return { table: withColumns(table, added) };
  },
});
