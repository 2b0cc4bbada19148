import { SieveError } from '../../../foundation/errors.js';
import { openDelimited } from '../../../data/formats/csv/records.js';
import { eachRecord } from '../../files/record.js';
import { LABEL_COLUMN, type PredictionRules } from '../../files/rules.js';
import type { PredictionsRules } from './question.js';
import { fileSlip, type FileSlip } from '../../slips/contract/file-slip.js';

/** What stands in a file that could not be marked. */
export interface UnreadPredictions {
  /** Its labels; none where it has no column of labels, or numbers are asked. */
  readonly cells: readonly string[];
  /** Its identifiers; none where it has no such column. */
  readonly identifiers: readonly string[];
  readonly rules: PredictionRules & Pick<PredictionsRules, 'trainingRows'>;
}

/** Share of the rows that must fit, and rows that there must be. */
const NEARLY_ALL = 0.99;
const FEWEST = 10;

const isWhole = (text: string): boolean => /^-?\d+(\.0+)?$/.test(text);

/** The columns of a file that could not be marked; null where it is no table. */
export function unreadFile(
  bytes: Uint8Array,
  file: string,
  rules: UnreadPredictions['rules'],
): UnreadPredictions | null {
  try {
    const source = openDelimited(bytes, file);
    const label = rules.task === 'regression' ? null : (rules.names?.label ?? LABEL_COLUMN);
    const [labels, names] = [label, rules.identifier].map((name) => source.header.indexOf(name ?? ''));
    const [cells, identifiers]: [string[], string[]] = [[], []];
    eachRecord(source, (record) => {
      if (labels !== undefined && labels >= 0) cells.push(record.text(labels).trim());
      if (names !== undefined && names >= 0) identifiers.push(record.text(names));
    });
    return { cells, identifiers, rules };
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
  fileSlip({
    id: 'training-rows-predicted',
    title: 'training rows predicted',
    from: 'form',
    says: 'You handed in predictions for the training rows.',
    remedy:
      'Predict the rows of the held-out file, whose answers you do not have. How a model does on the rows that it was fitted to says little of others.',
    example: 'A file of 1,140 rows, which are those of training.csv; held-out.csv has 372 others.',
    test({ identifiers, rules: { identifiers: asked, trainingRows } }) {
      if (identifiers.length < FEWEST || identifiers.length !== trainingRows) return null;
      const known = new Set(asked);
      return identifiers.some((one) => known.has(one))
        ? null
        : `${identifiers.length} rows, as many as there are to train on, and none of them held out`;
    },
  }),
];
