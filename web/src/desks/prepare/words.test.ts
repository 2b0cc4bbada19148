import { describe, expect, it } from '@jest/globals';
import type { StepEffect } from '@modest-sieve/core/data';
import { effectWords } from './words.js';

const nothing: StepEffect = {
  rowsBefore: 1500,
  rowsAfter: 1500,
  fallen: 0,
  repeated: 0,
  added: [],
  dropped: [],
  changed: [],
  remarks: [],
  learns: false,
  problem: null,
};

describe('what a step did', () => {
  it.each([
    [{}, 'Nothing changes.'],
    [{ fallen: 1, rowsAfter: 1499 }, '1 row falls out, 1,499 stay.'],
    [{ fallen: 41, rowsAfter: 1459 }, '41 rows fall out, 1,459 stay.'],
    [{ repeated: 2 }, '2 rows are repeated.'],
    [
      {
        changed: [
          { column: 'fed', cells: 3 },
          { column: 'weight', cells: 1 },
        ],
      },
      '4 cells change in fed, weight.',
    ],
    [{ changed: [{ column: 'seen', cells: 0 }] }, 'the type of seen changes.'],
    [
      { dropped: ['forage'], added: ['a', 'b', 'c', 'd', 'e'] },
      '1 column goes: forage; 5 columns come: a, b, c and 2 more.',
    ],
  ])('%j is told as “%s”', (effect, words) => {
    expect(effectWords({ ...nothing, ...effect })).toBe(words);
  });
});
