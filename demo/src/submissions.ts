import { cellText, columnNamed, readCsv, seededRandom, writeRecords, type Table } from '@modest-sieve/core';

/** Files that three invented students might hand in, made from the held-out features alone. */

const numberIn = (table: Table, name: string, row: number, blank: number) => {
  const text = cellText(columnNamed(table, name), row);
  return text === null ? blank : Number(text);
};

function predictions(heldout: Uint8Array, probability: (table: Table, row: number) => number): string {
  const { table } = readCsv(heldout, { file: 'held-out.csv' });
  const colony = columnNamed(table, 'colony');
  return writeRecords(
    ['colony', 'probability'],
    Array.from({ length: table.rowCount }, (_, row) => [
      cellText(colony, row),
      probability(table, row).toFixed(4),
    ]),
  );
}

const logistic = (x: number) => 1 / (1 + Math.exp(-x));

/** Bees, mites and stores weighed by hand. */
export const careful = (heldout: Uint8Array): string =>
  predictions(heldout, (table, row) => {
    const frames = numberIn(table, 'frames_of_bees', row, 11);
    const mites = numberIn(table, 'mite_wash', row, 3);
    const stores = numberIn(table, 'stores_kg', row, 17.5);
    return logistic(1.2 + 0.24 * (frames - 11) - 0.2 * (mites - 3) + 0.09 * (stores - 17.5));
  });

/** A rule on one column. */
export const quick = (heldout: Uint8Array): string =>
  predictions(heldout, (table, row) => (numberIn(table, 'mite_wash', row, 3) > 6 ? 0.4 : 0.8));

/** The careful file with its labels exchanged. */
export const exchanged = (heldout: Uint8Array): string => {
  const random = seededRandom(7);
  return predictions(heldout, (table, row) =>
    logistic(-1.2 - 0.24 * (numberIn(table, 'frames_of_bees', row, 11) - 11) + 0.4 * (random.unit() - 0.5)),
  );
};

/** Probabilities in percent, and a colony left out: refused by the file checks. */
export const inPercent = (heldout: Uint8Array): string =>
  careful(heldout)
    .split('\n')
    .filter((_, line) => line !== 5)
    .map((line, i) => (i === 12 || i === 30 ? line.replace(/,(.*)$/, ',87.5') : line))
    .join('\n');
