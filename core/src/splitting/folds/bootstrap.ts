import { at } from '../../foundation/numbers.js';
import type { Random } from '../../foundation/random/random.js';
import { foldSplitter, type FoldMethod } from './fold-splitter.js';
import { testsWhatWasNotDrawn } from './invariants.js';
import { randomOf } from './made-folds.js';
import { repeats, seed } from './parameters.js';

const bootstrap: FoldMethod = {
  name: 'bootstrap',
  id: 'bootstrap@1',
  title: 'of rows drawn with replacement',
  needs: [],
  isRandom: true,
  chosenBy: null,
  invariants: [testsWhatWasNotDrawn],
  make: ({ table, plan, rows, repeats }) => {
    const draws = Array.from({ length: repeats }, (_, repeat) =>
      drawWithReplacement(rows, table.rowCount, randomOf(plan.seed, repeat)),
    );
    return {
      count: 1,
      tests: draws.map((draw) => draw.outOfBag),
      training: (repeat) => at(draws, repeat).drawn,
      warnings: [],
    };
  },
};

/**
 * bootstrap@1: as many rows as there are, drawn with replacement; those never drawn are out of the bag and tested
 * (Efron and Tibshirani, JASA 92, 1997).
 *
 * @returns drawn rows, ascending; and for each row of the table 0 where it is tested, −1 where it is not
 */
function drawWithReplacement(
  rows: Int32Array,
  rowCount: number,
  random: Random,
): { drawn: Int32Array; outOfBag: Int32Array } {
  const outOfBag = new Int32Array(rowCount).fill(-1);
  for (const row of rows) outOfBag[row] = 0;
  const drawn = rows.map(() => at(rows, random.below(rows.length))).sort();
  for (const row of drawn) outOfBag[row] = -1;
  return { drawn, outOfBag };
}

export const withReplacement = foldSplitter({
  key: 'bootstrap',
  title: 'with replacement',
  about: 'As many rows as there are, drawn with replacement; those never drawn are tested.',
  parameters: { repeats: repeats(25), seed },
  sentence: () =>
    'Draw as many rows as there are, with replacement, {repeats} times, and test those that were not drawn, seed {seed}.',
  methods: [bootstrap],
  ask: (values) => ({ method: 'bootstrap', ...values }),
});
