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

/** A share of cells is empty. */
const sometimes = (random, share, text) => (random.unit() < share ? '' : text);

const normalOf = (random) =>
  Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());

/** Fourteen columns of numbers as instruments and programs write them, of which the fifth and sixth have gaps. */
function measuredNumbers(random, i) {
  const normal = () => normalOf(random);
  return [
    random.below(10),
    (20 + 5 * normal()).toFixed(1),
    (random.unit() * 580).toFixed(2),
    normal().toFixed(3),
    sometimes(random, 0.05, (300 + 90 * normal()).toFixed(2)),
    sometimes(random, 0.05, String(random.below(60_000))),
    String(normal()),
    String(random.unit()),
    Math.exp(3 * normal()).toPrecision(8),
    (normal() * 10 ** (random.below(40) - 20)).toExponential(4),
    random.below(1_000_000),
    i * 37 + random.below(37),
    (-random.unit() * 180).toFixed(6),
    1,
  ];
}

/**
 * Eighteen columns as a class’s data come: gaps in some, three to seventeen digits, signs and powers of ten, ten to a
 * million different values, a skewed category, a constant, dates, and a class.
 */
export function measuredTable(folder, rows) {
  const random = seededRandom(3);
  return writeLines(
    join(folder, `measured-${rows}.csv`),
    ['apiary', 'breed', ...Array.from({ length: 14 }, (_, c) => `m${c}`), 'seen', 'y'],
    rows,
    (i) =>
      [
        `A${Math.floor(200 * random.unit() ** 3)}`,
        sometimes(random, 0.02, ['Kärntner', 'Ligurian', 'mixed'][Math.floor(3 * random.unit() ** 2)]),
        ...measuredNumbers(random, i),
        `20${10 + random.below(16)}-${10 + random.below(3)}-${10 + random.below(18)}`,
        random.unit() < 0.8 ? 'alive' : 'lost',
      ].join(','),
  );
}

const WORDS = 'queen brood honey frame swarm feed mite weak strong damp früh späte grün near far old'.split(
  ' ',
);

/** The same with remarks of several words between quotation marks, with commas and quoted words in some. */
export function remarksTable(folder, rows) {
  const random = seededRandom(4);
  const word = () => WORDS[random.below(WORDS.length)];
  return writeLines(
    join(folder, `remarks-${rows}.csv`),
    ['apiary', 'keeper', 'remark', ...Array.from({ length: 14 }, (_, c) => `m${c}`), 'y'],
    rows,
    (i) =>
      [
        `A${Math.floor(200 * random.unit() ** 3)}`,
        `"${word()}er, ${word()}"`,
        random.unit() < 0.3
          ? `"${word()}, ${word()} and ""${word()}"""`
          : sometimes(random, 0.1, `${word()} ${word()}`),
        ...measuredNumbers(random, i),
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
  const normal = () => normalOf(random);
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
