import { countCodes, labelsOf } from '../../table/labels.js';
import { codedColumn } from '../../table/recode.js';
import { columnNamed, type Column } from '../../table/table.js';
import { modeOfCodes } from '../figures.js';
import { checkNew, chosen, keepRows } from '../rows.js';
import { always, stepKind, withColumns, withoutColumns } from '../step.js';

export const rareCategories = stepKind({
  key: 'rare-categories',
  title: 'Put rare categories together',
  about: 'Makes one category of those with fewer rows than a given number, or drops their rows.',
  reason: 'in a rare category',
  parameters: {
    column: { type: 'column', label: 'the column', of: ['category', 'text', 'boolean'] },
    least: { type: 'number', label: 'the fewest rows of a category', min: 1, step: 1, start: 10 },
    how: {
      type: 'choice',
      label: 'what becomes of them',
      choices: [
        { value: 'together', text: 'become' },
        { value: 'drop', text: 'fall out with their rows' },
      ],
    },
    name: { type: 'text', label: 'what they become', start: 'other' },
  },
  sentence: ({ how }) =>
    how === 'drop'
      ? 'Categories of {column} with fewer than {least} rows {how}.'
      : 'Categories of {column} with fewer than {least} rows {how} {name}.',
  learns: always,
  apply: (table, { column: name, least, how, name: together }) => {
    const { labels, codes } = labelsOf(columnNamed(table, name));
    const counts = countCodes(codes, labels.length);
    const isRare = (code: number) => code >= 0 && (counts[code] ?? 0) < least;
    if (how === 'drop') return keepRows(table, (row) => !isRare(codes[row] ?? -1));
    const merged = labels.map((label, code) => (isRare(code) ? together : label));
    return { table: withColumns(table, [codedColumn(name, merged, codes)]) };
  },
});

export const dummies = stepKind({
  key: 'dummies',
  title: 'Make dummy columns',
  about:
    'Puts in place of a column one for each of its values, 1 where a row has it and else 0, in label order; a missing cell is 0 in all of them. One value may be left out, which the others are then compared with.',
  parameters: {
    columns: { type: 'columns', label: 'the columns of categories', of: ['category', 'boolean'] },
    without: {
      type: 'choice',
      label: 'which value is left out',
      choices: [
        { value: 'first', text: 'the first value' },
        { value: 'most frequent', text: 'the most frequent value' },
        { value: 'none', text: 'no value' },
      ],
    },
  },
  sentence: () => 'Make dummy columns of {columns}, leaving out {without} of each.',
  learns: always,
  apply: (table, { columns, without }) => {
    const added = chosen(table, columns).flatMap((column): Column[] => {
      const { labels, codes } = labelsOf(column);
      const left =
        without === 'none' ? -1 : without === 'first' ? 0 : modeOfCodes(countCodes(codes, labels.length));
      return labels.flatMap((label, code) => {
        if (code === left) return [];
        const name = `${column.name}: ${label}`;
        checkNew(table, name, 'columns');
        return { kind: 'number', name, values: Float64Array.from(codes, (own) => (own === code ? 1 : 0)) };
      });
    });
    return { table: withColumns(withoutColumns(table, columns), added) };
  },
});
