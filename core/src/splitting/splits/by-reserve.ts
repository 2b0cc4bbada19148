import { randomMethod, STRATA_AND_GROUPS } from './at-random.js';
import { seed, share } from './sizes.js';
import { splitter } from './splitter.js';

export const byReserve = splitter({
  key: 'reserve',
  title: 'by the reserve',
  about:
    'The rows that exercises on this data set hold out already are held out again. The others are for training, or some of them for validation: at random, with equal shares of a column’s values and whole groups where they are named.',
  isRandom: false,
  holdsOut: 'reserve',
  parameters: {
    validation: share('validation', 0, 0),
    ...STRATA_AND_GROUPS,
    seed,
  },
  sentence: () =>
    'Hold out the rows of the reserve and set {validation} of the others aside for validation, with equal shares of {stratify}, keeping the rows of one {group} together, seed {seed}.',
  methods: [],
  ask: (table, values) => ({
    table,
    parts: ['training', 'validation'],
    plan: {
      ...randomMethod(values),
      parts: [
        { name: 'training', share: 1 - values.validation / 100 },
        { name: 'validation', share: values.validation / 100 },
      ],
      seed: values.seed,
    },
  }),
});
