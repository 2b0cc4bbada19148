import { indices } from '../../../foundation/numbers.js';
import { seededRandom, shuffle, type Random } from '../../../foundation/random/random.js';
import { labelsOf } from '../../table/labels.js';
import { columnNamed, isCoded, type Column } from '../../table/table.js';
import { deviationOf } from '../figures.js';
import { checkNew, chosen, takeTableRows } from '../rows.js';
import { never, stepKind, withColumns } from '../step.js';
import { SEED } from './order.js';

const PERCENT = { type: 'number', min: 0, max: 100, unit: '%', start: 5 } as const;

/** A standard normal value (Box and Muller, Annals of Mathematical Statistics 29, 1958). */
const normal = (random: Random): number =>
  Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());

export const addNoise = stepKind({
  key: 'add-noise',
  title: 'Add noise on purpose',
  about: 'Adds normal noise to numbers, as wide as a share of the column’s own standard deviation.',
  parameters: {
    columns: { type: 'columns', label: 'the columns of numbers', of: ['number'] },
    share: { ...PERCENT, max: 1000, label: 'the width of the noise' },
    seed: SEED,
  },
  sentence: () => 'Add noise to {columns}, as wide as {share} of their spread, seed {seed}.',
  learns: never,
  apply: (table, { columns, share, seed }) => ({
    table: withColumns(
      table,
      chosen(table, columns).map((column) => {
        if (column.kind !== 'number') return column;
        const random = seededRandom(seed, `prepare/noise ${column.name}`);
        const width = ((deviationOf(column.values) || 0) * share) / 100;
        return { ...column, values: column.values.map((value) => value + width * normal(random)) };
      }),
    ),
  }),
});

export const addBlanks = stepKind({
  key: 'add-blanks',
  title: 'Add blanks on purpose',
  about: 'Makes a share of the cells of columns missing, drawn at random.',
  parameters: {
    columns: { type: 'columns', label: 'the columns' },
    share: { ...PERCENT, label: 'the share of cells' },
    seed: SEED,
  },
  sentence: () => 'Make {share} of the cells of {columns} missing, seed {seed}.',
  learns: never,
  apply: (table, { columns, share, seed }) => ({
    table: withColumns(
      table,
      chosen(table, columns).map((column): Column => {
        const random = seededRandom(seed, `prepare/blanks ${column.name}`);
        const isBlank = () => random.unit() < share / 100;
        return isCoded(column)
          ? { ...column, codes: column.codes.map((code) => (isBlank() ? -1 : code)) }
          : { ...column, values: column.values.map((value) => (isBlank() ? NaN : value)) };
      }),
    ),
  }),
});

export const addRepeats = stepKind({
  key: 'add-repeats',
  title: 'Add repeated rows on purpose',
  about: 'Repeats a share of the rows, drawn at random, at places drawn at random after them.',
  parameters: { share: { ...PERCENT, label: 'the share of rows' }, seed: SEED },
  sentence: () => 'Repeat {share} of the rows, seed {seed}.',
  learns: never,
  apply: (table, { share, seed }) => {
    const random = seededRandom(seed, 'prepare/repeats');
    const count = Math.round((table.rowCount * share) / 100);
    if (count === 0) return { table };
    const drawn = shuffle(indices(table.rowCount), random).slice(0, count);
    const after = new Map<number, number[]>();
    for (const row of drawn) {
      const place = row + random.below(table.rowCount - row);
      after.set(place, [...(after.get(place) ?? []), row]);
    }
    const rows: number[] = [];
    for (let row = 0; row < table.rowCount; row++) rows.push(row, ...(after.get(row) ?? []));
    return takeTableRows(table, Int32Array.from(rows));
  },
});

export const addLeak = stepKind({
  key: 'add-leak',
  title: 'Add a leak on purpose',
  about:
    'Adds a column that gives a column away: of classes a number for each class, with a share of the rows given one at random; of numbers the numbers themselves, with noise as wide as a share of their spread.',
  parameters: {
    name: { type: 'text', label: 'the name of the new column', start: 'hint' },
    column: { type: 'column', label: 'the column that it gives away' },
    share: { ...PERCENT, label: 'how much of it is wrong' },
    seed: SEED,
  },
  sentence: () => 'Add a column {name} that gives {column} away, {share} of it wrong, seed {seed}.',
  learns: never,
  apply: (table, { name, column: target, share, seed }) => {
    checkNew(table, name, 'name');
    const random = seededRandom(seed, 'prepare/leak');
    const column = columnNamed(table, target);
    if (column.kind === 'number') {
      const width = ((deviationOf(column.values) || 0) * share) / 100;
      const values = column.values.map((value) => value + width * normal(random));
      return { table: withColumns(table, [{ kind: 'number', name, values }]) };
    }
    const { labels, codes } = labelsOf(column);
    const values = Float64Array.from(codes, (code) => {
      const isWrong = random.unit() < share / 100;
      return code < 0 ? NaN : isWrong ? random.below(labels.length) : code;
    });
    return { table: withColumns(table, [{ kind: 'number', name, values }]) };
  },
});
