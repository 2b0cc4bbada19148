import { at } from '../../foundation/numbers.js';
import { apportion } from '../algorithms/apportion.js';
import { PART_NAMES } from '../parts/part-names.js';
import { weightsOf } from '../parts/parts.js';
import { everyRowIsAssigned, partsFollowRows, sizesAreApportioned } from './invariants.js';
import { SIZES, sizes, sizesSentence } from './sizes.js';
import { splitter, type SplitMethod } from './splitter.js';

const first: SplitMethod = {
  name: 'first',
  id: 'first@1',
  title: 'in the order of the rows',
  isRandom: false,
  needs: [],
  chosenBy: null,
  invariants: [everyRowIsAssigned, sizesAreApportioned, partsFollowRows],
  assign: ({ plan, rows, parts }) => splitInOrder(rows, weightsOf(plan.parts, rows.length), parts),
};

/** first@1: the parts in the order of the rows, at their apportioned sizes. */
function splitInOrder(rows: Int32Array, weights: readonly number[], parts: Int8Array): void {
  let position = 0;
  apportion(rows.length, weights).forEach((size, part) => {
    for (let i = 0; i < size; i++) parts[at(rows, position++)] = part;
  });
}

export const inOrder = splitter({
  key: 'first',
  title: 'in the order of the rows',
  about: 'The first rows are for training, the last are held out, as they are in the table.',
  isRandom: false,
  holdsOut: 'plan',
  parameters: SIZES,
  sentence: (values) => `${sizesSentence(values)}, in the order of the rows.`,
  methods: [first],
  ask: (table, values) => ({
    table,
    parts: PART_NAMES,
    plan: { method: 'first', parts: sizes(values), seed: 0 },
  }),
});
