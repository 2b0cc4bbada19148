import { expect, it } from '@jest/globals';
import { luckText } from './luck-text.js';

const luck = { seen: 0.9, expected: 0.86, luck: 0.04, lead: null, settings: 40 };

it.each([
  [{ luck, runs: 3 }, 'The best of 40 settings of 3 runs has 0.900 on all rows out of fold'],
  [{ luck, runs: 3 }, 'about 0.040 may be luck. Settings of a curve or grid'],
  [{ luck: { ...luck, settings: 3 }, runs: 3 }, 'The best of 3 runs has 0.900'],
  [{ luck: { ...luck, luck: -0.001 }, runs: 3 }, 'in the choice: no luck that can be seen.'],
  [{ luck: null, runs: 2 }, 'is not known: fewer than two settings have one'],
])('of %j it is said: %s', (found, words) => {
  expect(luckText(found, 'accuracy')).toContain(words);
});
