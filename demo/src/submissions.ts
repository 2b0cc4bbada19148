import { cellText, columnNamed, readCsv, writeRecords, type Table } from '@modest-sieve/core/data';

/** Files that three invented students might hand in, made from the held-out features alone. */

type Guess = (table: Table, row: number) => number;

const numberIn = (table: Table, name: string, row: number, blank: number) => {
  const text = cellText(columnNamed(table, name), row);
  return text === null ? blank : Number(text);
};

/** A file with a cell for each held-out row. */
export function fileOf(
  heldout: Uint8Array,
  column: string,
  cell: (table: Table, row: number) => string,
): string {
  const { table } = readCsv(heldout, { file: 'held-out.csv' });
  const colony = columnNamed(table, 'colony');
  return writeRecords(
    ['colony', column],
    Array.from({ length: table.rowCount }, (_, row) => [cellText(colony, row), cell(table, row)]),
  );
}

/** A file with a probability for each colony. */
export const probabilities = (guess: Guess) => (heldout: Uint8Array) =>
  fileOf(heldout, 'probability', (table, row) => guess(table, row).toFixed(4));

/** A file with a label for each colony: yes from a half up. */
export const labels = (guess: Guess) => (heldout: Uint8Array) =>
  fileOf(heldout, 'prediction', (table, row) => (guess(table, row) >= 0.5 ? 'yes' : 'no'));

const logistic = (x: number) => 1 / (1 + Math.exp(-x));

/** Bees, mites and stores weighed by hand. */
export const careful: Guess = (table, row) => {
  const frames = numberIn(table, 'frames_of_bees', row, 11);
  const mites = numberIn(table, 'mite_wash', row, 3);
  const stores = numberIn(table, 'stores_kg', row, 17.5);
  return logistic(1.2 + 0.24 * (frames - 11) - 0.2 * (mites - 3) + 0.09 * (stores - 17.5));
};

/** A rule on one column. */
export const quick: Guess = (table, row) => (numberIn(table, 'mite_wash', row, 3) > 6 ? 0.4 : 0.8);

/** What is most frequent, whatever the colony. */
export const frequent: Guess = () => 0.72;

/** One column alone, and the probability of the other class. */
export const exchanged: Guess = (table, row) =>
  1 - logistic(1.2 + 0.24 * (numberIn(table, 'frames_of_bees', row, 11) - 11));

/** Some probabilities in percent, and a colony left out: refused by the file checks. */
export const inPercent = (heldout: Uint8Array): string =>
  probabilities(careful)(heldout)
    .split('\n')
    .filter((_, line) => line !== 5)
    .map((line, i) => (i === 12 || i === 30 ? line.replace(/,(.*)$/, ',87.5') : line))
    .join('\n');

/** Whole apiaries to training or test, four of five to training. */
export function wholeApiaries(training: Uint8Array, header: string): string {
  const { table } = readCsv(training, { file: 'training.csv' });
  const [colony, apiary] = [columnNamed(table, 'colony'), columnNamed(table, 'apiary')];
  const names = [...new Set(Array.from({ length: table.rowCount }, (_, row) => cellText(apiary, row)))];
  return writeRecords(
    ['colony', header],
    Array.from({ length: table.rowCount }, (_, row) => [
      cellText(colony, row),
      names.indexOf(cellText(apiary, row)) % 5 === 4 ? 'test' : 'training',
    ]),
  );
}

/** A question as its student sees it. */
export interface Sheet {
  readonly text: string;
  readonly fields: readonly { readonly key: string; readonly label: string }[];
}

/** From the counts in the text: rows, those that survived and were found, those lost and found. */
export function precisionAndRecall(text: string): { precision: number; recall: number; accuracy: number } {
  const [rows = 0, positive = 0, tp = 0, negative = 0, tn = 0] = (text.match(/\d[\d,]*/g) ?? []).map((cell) =>
    Number(cell.replaceAll(',', '')),
  );
  return {
    precision: tp / (tp + negative - tn),
    recall: tp / positive,
    accuracy: (tp + tn) / rows,
  };
}

/** What is typed for precision and recall. */
export function fieldsFrom({ text, fields }: Sheet): Record<string, string> {
  const { precision, recall } = precisionAndRecall(text);
  return Object.fromEntries(
    fields.map(({ key, label }) => [key, (label.startsWith('precision') ? precision : recall).toFixed(3)]),
  );
}
