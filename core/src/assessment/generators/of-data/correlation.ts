import { SieveError } from '../../../foundation/errors.js';
import { correlationRatio, cramersV, pearson, spearman } from '../../../data/profile/association.js';
import { labelsOf } from '../../../data/table/labels.js';
import { columnNamed, type Column, type Table } from '../../../data/table/table.js';
import { generator } from '../generator.js';
import { chosenRows, givenOf, ROWS } from './rows.js';

const MEASURES = [
  { value: 'pearson', text: 'Pearson’s correlation' },
  { value: 'spearman', text: 'Spearman’s rank correlation' },
  { value: 'cramers-v', text: 'Cramér’s V, without correction' },
  { value: 'correlation-ratio', text: 'the correlation ratio η' },
] as const;
type Measure = (typeof MEASURES)[number]['value'];

const wordsOf = (measure: Measure): string =>
  MEASURES.find(({ value }) => value === measure)?.text ?? measure;

const numbersOf = (column: Column): Float64Array => {
  if (column.kind === 'number') return column.values;
  throw new SieveError('no-figure', `${column.name} holds no numbers.`, { field: 'measure' });
};

/** @throws SieveError `no-figure` where the columns are not what the measure takes, or do not vary */
function strengthOf(table: Table, one: string, other: string, measure: Measure): number {
  const [a, b] = [columnNamed(table, one), columnNamed(table, other)];
  const value = {
    pearson: () => pearson(numbersOf(a), numbersOf(b)),
    spearman: () => spearman(numbersOf(a), numbersOf(b)),
    'cramers-v': () => cramersV(labelsOf(a), labelsOf(b)),
    'correlation-ratio': () =>
      a.kind === 'number'
        ? correlationRatio(labelsOf(b), a.values)
        : correlationRatio(labelsOf(a), numbersOf(b)),
  }[measure]();
  if (value === null)
    throw new SieveError('no-figure', `${one} or ${other} does not vary in these rows.`, { field: 'column' });
  return value;
}

export const correlation = generator({
  key: 'correlation',
  title: 'two columns together',
  about:
    'How strongly two columns go together, over the rows in which both have a value: Pearson’s or Spearman’s correlation of two columns of numbers, Cramér’s V of two columns of classes, the correlation ratio η of numbers by classes.',
  text: 'Compute {measure} of **{column}** and **{other}** over {rows}.',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    column: { type: 'column', label: 'column' },
    other: { type: 'column', label: 'the other column' },
    measure: { type: 'choice', label: 'measure', choices: MEASURES },
  },
  sentence: () => 'Ask for {measure} of {column} and {other} over {rows}.',
  compute({ rows, column, other, measure }, material) {
    const table = chosenRows(material, rows);
    return {
      given: { ...givenOf(table, rows), column, other, measure: wordsOf(measure) },
      table: null,
      asked: [
        {
          key: 'strength',
          name: wordsOf(measure),
          convention: null,
          figure: { value: strengthOf(table, column, other, measure) },
        },
      ],
    };
  },
});

/** Strengths that differ by less are not told apart. */
const ALIKE = 1e-6;

export const strongestCorrelation = generator({
  key: 'strongest-correlation',
  title: 'the column that goes with it most',
  about:
    'Which column of numbers has the strongest correlation with a column, whichever its sign, over the rows in which both have a value.',
  text: 'Which column of numbers has the strongest correlation ({measure}, whichever its sign) with **{column}** in {rows}?',
  from: 'data',
  of: 'data',
  parameters: {
    rows: ROWS,
    column: { type: 'column', label: 'column', of: ['number'] },
    measure: { type: 'choice', label: 'measure', choices: [MEASURES[0], MEASURES[1]] },
  },
  sentence: () => 'Ask which column goes with {column} most, by {measure}, in {rows}.',
  compute({ rows, column, measure }, material) {
    const table = chosenRows(material, rows);
    const others = table.columns.flatMap((one) => {
      if (one.kind !== 'number' || one.name === column) return [];
      const value = (measure === 'pearson' ? pearson : spearman)(
        numbersOf(columnNamed(table, column)),
        one.values,
      );
      return value === null ? [] : [{ name: one.name, strength: Math.abs(value) }];
    });
    const [first, second] = [...others].sort((a, b) => b.strength - a.strength);
    if (!first || !second)
      throw new SieveError('no-figure', `There are not two columns of numbers beside ${column}.`, {
        field: 'column',
      });
    if (first.strength - second.strength < ALIKE)
      throw new SieveError('no-figure', 'Two columns are equally strong.', { field: 'column' });
    return {
      given: { ...givenOf(table, rows), column, measure: wordsOf(measure) },
      table: null,
      asked: [
        {
          key: 'strongest',
          name: 'strongest',
          convention: null,
          choices: others.map(({ name }) => name),
          right: [first.name],
          several: false,
        },
      ],
    };
  },
});
