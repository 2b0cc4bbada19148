import { at } from '../../foundation/numbers.js';
import { askedOf, figures, generator } from './generator.js';

const OUTSIDE = 'accuracy, column chosen on all rows';
const INSIDE = 'accuracy, column chosen inside each fold';
const TOO_HIGH = 'by how much the first is too high';

const LETTERS = ['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H', 'I', 'J', 'K', 'L'];

/** Columns that say nothing of the target, screened on all rows and inside the folds. */
export const screenedColumn = generator({
  key: 'screened-column',
  title: 'a column screened inside and outside folds',
  about:
    'Columns of chance beside a target of chance. Chosen on all rows, the best column has seen the rows that judge it; chosen by the rows of the other folds it has not (Hastie, Tibshirani and Friedman, 2009, 7.10.2).',
  text: 'The table has {n} hives in {k} folds, {columns} columns of 0 and 1, and 1 where the colony was lost. One column alone predicts: 1 says lost. It is the column that is right most often; of equal ones the first.',
  from: 'chance',
  parameters: {
    k: { type: 'number', label: 'folds', min: 2, max: 6, step: 1, start: 4 },
    rows: { type: 'number', label: 'hives in a fold', min: 2, max: 10, step: 1, start: 4 },
    columns: { type: 'number', label: 'columns', min: 2, max: LETTERS.length, step: 1, start: 8 },
    asked: figures([OUTSIDE, INSIDE, TOO_HIGH], [OUTSIDE, INSIDE]),
  },
  sentence: () =>
    'Draw {columns} columns of {rows} hives in each of {k} folds, all by chance, and ask for {asked}.',
  draw({ k, rows, columns, asked }, random) {
    const n = k * rows;
    const lost = Array.from({ length: n }, () => random.below(2));
    const values = Array.from({ length: columns }, () => Array.from({ length: n }, () => random.below(2)));
    const foldOf = (row: number) => Math.floor(row / rows);
    const isRight = (column: number, row: number) => at(at(values, column), row) === at(lost, row);
    const best = (isUsed: (row: number) => boolean) => {
      const right = values.map((_, c) => lost.filter((__, row) => isUsed(row) && isRight(c, row)).length);
      return right.indexOf(Math.max(...right));
    };
    const share = (columnOf: (row: number) => number) =>
      lost.filter((_, row) => isRight(columnOf(row), row)).length / n;
    const whole = best(() => true);
    const inFold = Array.from({ length: k }, (_, fold) => best((row) => foldOf(row) !== fold));
    const outside = share(() => whole);
    const inside = share((row) => at(inFold, foldOf(row)));
    return {
      given: { n: String(n), k: String(k), columns: String(columns) },
      table: {
        header: ['fold', ...LETTERS.slice(0, columns), 'lost'],
        rows: lost.map((own, row) => [
          String(foldOf(row) + 1),
          ...values.map((column) => String(column[row])),
          String(own),
        ]),
      },
      asked: askedOf({ [OUTSIDE]: outside, [INSIDE]: inside, [TOO_HIGH]: outside - inside }, asked),
    };
  },
});
