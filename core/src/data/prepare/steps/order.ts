import { indices } from '../../../foundation/numbers.js';
import { LARGEST_SEED, seededRandom, shuffle } from '../../../foundation/random/random.js';
import { takeTableRows } from '../rows.js';
import { never, stepKind } from '../step.js';

export const SEED = {
  type: 'number',
  label: 'the seed',
  min: 0,
  max: LARGEST_SEED,
  step: 1,
  start: 1,
} as const;

export const shuffleRows = stepKind({
  key: 'shuffle',
  title: 'Shuffle the rows',
  about: 'Puts the rows in a random order.',
  parameters: { seed: SEED },
  sentence: () => 'Shuffle the rows, seed {seed}.',
  learns: never,
  apply: (table, { seed }) =>
    takeTableRows(table, shuffle(indices(table.rowCount), seededRandom(seed, 'prepare/shuffle'))),
});

export const sampleRows = stepKind({
  key: 'sample',
  title: 'Take a sample of the rows',
  about: 'Keeps so many rows drawn at random, in their order; all of them where there are fewer.',
  reason: 'not drawn',
  parameters: {
    rows: { type: 'number', label: 'how many rows', min: 1, step: 1, start: 1000 },
    seed: SEED,
  },
  sentence: () => 'Keep {rows} rows drawn at random, seed {seed}.',
  learns: never,
  apply: (table, { rows, seed }) => {
    if (rows >= table.rowCount) return { table };
    const drawn = shuffle(indices(table.rowCount), seededRandom(seed, 'prepare/sample')).slice(0, rows);
    return takeTableRows(table, drawn.sort());
  },
});
