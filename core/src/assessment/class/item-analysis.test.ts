import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { FEWEST, itemAnalysis } from './item-analysis.js';

interface Case {
  readonly most: number[];
  readonly marks: (number | null)[][];
  readonly expected: {
    students: number;
    answered: number;
    share: number;
    r: number;
    low: number;
    high: number;
  }[];
}

const { cases } = JSON.parse(readFileSync('core/test/reference/items.json', 'utf8')) as { cases: Case[] };

describe('questions in a class', () => {
  // SciPy 1.10.1 (items.py).
  it.each(cases)(
    'are as hard, and go along with the others, as SciPy says (%#)',
    ({ most, marks, expected }) => {
      const found = itemAnalysis(marks, most);
      expect(found).toHaveLength(expected.length);
      expected.forEach(({ students, answered, share, r, low, high }, q) => {
        const own = found[q];
        expect(own).toMatchObject({ students, answered });
        expect(own?.share).toBeCloseTo(share, 10);
        expect(own?.discrimination?.value).toBeCloseTo(r, 10);
        expect(own?.discrimination?.low).toBeCloseTo(low, 10);
        expect(own?.discrimination?.high).toBeCloseTo(high, 10);
      });
    },
  );

  it('have no correlation of few students, of one question, or where all have the same', () => {
    const of = (students: number) => Array.from({ length: students }, (_, i) => [i % 3, i % 5]);
    expect(itemAnalysis(of(FEWEST - 1), [2, 4])[0]?.discrimination).toBeNull();
    expect(itemAnalysis(of(FEWEST), [2, 4])[0]?.discrimination).not.toBeNull();
    expect(
      itemAnalysis(
        of(30).map(([one]) => [one ?? 0]),
        [2],
      )[0]?.discrimination,
    ).toBeNull();
    expect(
      itemAnalysis(
        of(30).map(([one]) => [one ?? 0, 3]),
        [2, 4],
      )[1]?.discrimination,
    ).toBeNull();
  });

  it('have no share where nobody has marks, and count who answered another question as nothing', () => {
    expect(itemAnalysis([[null, null]], [2, 4])).toEqual([
      { answered: 0, students: 0, share: null, discrimination: null },
      { answered: 0, students: 0, share: null, discrimination: null },
    ]);
    expect(
      itemAnalysis(
        [
          [2, null],
          [null, null],
        ],
        [2, 4],
      ),
    ).toMatchObject([
      { answered: 1, students: 1, share: 1 },
      { answered: 0, students: 1, share: 0 },
    ]);
  });
});
