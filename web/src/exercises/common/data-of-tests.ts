import type { Data } from './settings.js';

/** Marked data, as the composer of the tests knows them. */
export const DATA: Data = {
  name: 'Hives',
  known: null,
  sd: 4,
  feedbackRows: () => 60,
  tried: [],
  columns: [
    { name: 'survived', kind: 'boolean' },
    { name: 'weight', kind: 'number' },
  ],
  roles: {
    target: 'survived',
    task: 'binary',
    positive: 'true',
    identifier: null,
    group: null,
    time: null,
    weight: null,
    withheld: [],
  },
};
