import { expect, it } from '@jest/globals';
import { alsoIn, MOST_ALSO } from './also-shown.js';

it.each([
  [null, []],
  ['not JSON', []],
  ['{"recall": true}', []],
  ['["recall", "nothing", "rmse", "recall"]', ['recall']],
])('metrics that were remembered as %s', (saved, keys) => {
  expect(alsoIn(saved, 'binary')).toEqual(keys);
});

it('at most as many as fit beside one another', () => {
  const all = ['accuracy', 'precision', 'recall', 'specificity', 'f1', 'kappa', 'mcc', 'brier'];
  expect(alsoIn(JSON.stringify(all), 'binary')).toHaveLength(MOST_ALSO);
});
