// Tables for the benchmark, the same on every machine: written once for each number of rows.
import { createWriteStream } from 'node:fs';
import { once } from 'node:events';
import { join } from 'node:path';
import { seededRandom, shuffle } from '../../core/dist/foundation/index.js';

const BLOCK = 10_000;

async function writeLines(path, header, rows, line) {
  const out = createWriteStream(path);
  out.write(`${header.join(',')}\n`);
  for (let start = 0; start < rows; start += BLOCK) {
    const lines = Array.from({ length: Math.min(BLOCK, rows - start) }, (_, i) => line(start + i));
    if (!out.write(`${lines.join('\n')}\n`)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
  return path;
}

const NUMBERS = 13;

/** Eighteen columns: an identifier, two categories, thirteen numbers, a date and a class. */
export function wideTable(folder, rows) {
  const random = seededRandom(1);
  const numbers = Array.from({ length: NUMBERS }, (_, i) => `x${i}`);
  return writeLines(
    join(folder, `wide-${rows}.csv`),
    ['id', 'apiary', 'queen', ...numbers, 'seen', 'y'],
    rows,
    (i) =>
      [
        i,
        `A${random.below(60)}`,
        ['young', 'old', 'none'][random.below(3)],
        ...numbers.map(() => (random.unit() + random.unit() * 50).toFixed(2)),
        `202${random.below(5)}-0${1 + random.below(9)}-1${random.below(10)}`,
        random.unit() < 0.8 ? 'alive' : 'lost',
      ].join(','),
  );
}

/** Truth with a class and a group of each row, and predictions in another order. */
export async function truthAndPredictions(folder, rows) {
  const random = seededRandom(2);
  const positive = Uint8Array.from({ length: rows }, () => (random.unit() < 0.3 ? 1 : 0));
  const groups = Math.max(10, Math.round(rows / 100));
  const truth = await writeLines(join(folder, `truth-${rows}.csv`), ['id', 'y', 'hive'], rows, (i) =>
    [i, positive[i] ? 'lost' : 'alive', random.below(groups)].join(','),
  );
  const order = shuffle(Int32Array.from(positive.keys()), random);
  const predictions = await writeLines(join(folder, `pred-${rows}.csv`), ['id', 'probability'], rows, (i) => {
    const row = order[i];
    return [row, (0.2 + 0.2 * positive[row] + random.unit() * 0.5).toFixed(6)].join(',');
  });
  return { truth, predictions };
}

const FITTED_COLUMNS = 20;

/** Twenty numbers and a class that follows from some of them and from chance: values with many digits, few digits, skewed, counts. */
export function fittedTable(folder, rows) {
  const random = seededRandom(9);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());
  return writeLines(
    join(folder, `fitted-${rows}.csv`),
    [...Array.from({ length: FITTED_COLUMNS }, (_, c) => `x${c}`), 'y'],
    rows,
    () => {
      const x = Array.from({ length: FITTED_COLUMNS }, normal);
      x[3] = Number(x[3].toFixed(1));
      x[4] = random.below(5);
      x[5] = Math.exp(x[5]);
      const odds = x[0] * x[1] + Math.sin(2 * x[2]) + 0.5 * x[3] + (x[4] === 2 ? 1 : 0) + 0.3 * x[5] - 0.7;
      return [...x, odds + normal() > 0 ? 'sick' : 'well'].join(',');
    },
  );
}
