import { SieveError } from '../../foundation/errors.js';
import { everyRowIsAssigned } from './invariants.js';
import { TWO_PARTS } from './sizes.js';
import { splitter, type SplitMethod } from './splitter.js';

const every: SplitMethod = {
  name: 'every',
  id: 'every@1',
  title: 'by every n-th row',
  isRandom: false,
  needs: ['every'],
  chosenBy: ['every'],
  invariants: [everyRowIsAssigned],
  assign: ({ plan, rows, parts }) => {
    const n = plan.every ?? 0;
    if (!Number.isInteger(n) || n < 2 || n > rows.length)
      throw new SieveError('split-plan', `Every n-th row: n is a whole number from 2 to ${rows.length}.`, {
        field: 'every',
      });
    if (plan.parts.length !== 2)
      throw new SieveError('split-plan', 'Every n-th row makes exactly two parts.', { field: 'parts' });
    splitEvery(rows, n, parts);
  },
};

/** every@1: each n-th row to the second part, all others to the first. @param n at least 2 */
function splitEvery(rows: Int32Array, n: number, parts: Int8Array): void {
  rows.forEach((row, position) => {
    parts[row] = (position + 1) % n === 0 ? 1 : 0;
  });
}

export const everyNth = splitter({
  key: 'every',
  title: 'every n-th row',
  about: 'Each n-th row is held out, counted over the rows that take part.',
  isRandom: false,
  holdsOut: 'plan',
  parameters: { every: { type: 'number', label: 'n', min: 2, step: 1, start: 5 } },
  sentence: () => 'Of each {every} rows hold the last one out, and keep the others for training.',
  methods: [every],
  ask: (table, { every }) => ({
    table,
    parts: TWO_PARTS.names,
    plan: { method: 'every', parts: TWO_PARTS.sizes, seed: 0, every },
  }),
});
