import { SieveError } from '../../../foundation/errors.js';
import { openDelimited } from '../../../data/formats/csv/records.js';
import { eachRecord } from '../../files/record.js';
import { LABEL_COLUMN, type PredictionRules } from '../../files/rules.js';
import { fileSlip, type FileSlip } from '../../slips/contract/file-slip.js';

/** The labels of a file that could not be marked, as they stand in it. */
export interface UnreadPredictions {
  readonly cells: readonly string[];
  readonly rules: PredictionRules;
}

/** Share of the rows that must fit, and rows that there must be. */
const NEARLY_ALL = 0.99;
const FEWEST = 10;

const isWhole = (text: string): boolean => /^-?\d+(\.0+)?$/.test(text);

/** What stands in the column of labels; null where there is none. */
export function labelCells(
  bytes: Uint8Array,
  file: string,
  rules: PredictionRules,
): UnreadPredictions | null {
  if (rules.task === 'regression') return null;
  try {
    const source = openDelimited(bytes, file);
    const column = source.header.indexOf(rules.names?.label ?? LABEL_COLUMN);
    if (column < 0) return null;
    const cells: string[] = [];
    eachRecord(source, (record) => cells.push(record.text(column).trim()));
    return { cells, rules };
  } catch (error) {
    if (error instanceof SieveError) return null;
    throw error;
  }
}

/** Mistakes in a file of predictions that fails its checks; they know no answer. */
export const UNREAD_PREDICTION_SLIPS: readonly FileSlip<UnreadPredictions>[] = [
  fileSlip({
    id: 'class-index-for-label',
    title: 'index of the class for its label',
    from: 'form',
    says: 'You handed in numbers of classes, where their labels are asked.',
    remedy:
      'Encoders and networks give the place of a class among the sorted labels. Turn the places back into labels.',
    example: '0, 2, 1 stand for clover, lime, heather, where labels are sorted: clover, heather, lime.',
    test({ cells, rules: { labels } }) {
      if (cells.length < FEWEST || cells.every((cell) => labels.includes(cell)) || !cells.every(isWhole))
        return null;
      const values = new Set(cells.map(Number));
      const from = [0, 1].find((first) =>
        [...values].every((value) => value >= first && value < first + labels.length),
      );
      return from === undefined || values.size < 2
        ? null
        : `whole numbers from ${from} to ${from + labels.length - 1} for ${labels.length} classes`;
    },
  }),
  fileSlip({
    id: 'class-as-number',
    title: 'a class as a number',
    from: 'form',
    says: 'You handed in numbers between the classes: the target was taken for a number.',
    remedy:
      'A column of 0 and 1 is read as numbers, and a regression is fitted. Say that it is a class, and fit a classifier.',
    example: '0.37 and 1.04 beside the classes 0 and 1.',
    test({ cells, rules: { labels } }) {
      const numbers = cells.map(Number);
      if (
        cells.length < FEWEST ||
        labels.some((label) => label.trim() === '' || !Number.isFinite(Number(label)))
      )
        return null;
      const [low, high] = [Math.min(...labels.map(Number)), Math.max(...labels.map(Number))];
      const between = cells.filter((cell, i) => {
        const value = numbers[i] ?? Number.NaN;
        return cell !== '' && !isWhole(cell) && value > low - (high - low) && value < high + (high - low);
      });
      return between.length >= NEARLY_ALL * cells.length ? 'fractions where there are classes' : null;
    },
  }),
];
