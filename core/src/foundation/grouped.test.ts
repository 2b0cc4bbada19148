import { expect, it } from '@jest/globals';
import { groupedBy } from './grouped.js';

it('groups what is listed by a key, in the order of the list', () => {
  const found = groupedBy(['bee', 'ant', 'bug', 'asp', 'bat'], (word) => word[0]);
  expect([...found]).toEqual([
    ['b', ['bee', 'bug', 'bat']],
    ['a', ['ant', 'asp']],
  ]);
  expect(groupedBy([], String).size).toBe(0);
});
