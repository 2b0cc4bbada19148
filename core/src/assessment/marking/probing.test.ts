import { describe, expect, it } from '@jest/globals';
import { mostReached } from '../../../test/probing.js';
import { probingReaches, proposedAttempts } from './probing.js';

describe('the table of what probing gains', () => {
  // A few of its figures are simulated again, with as many students as the table takes for the files.
  it.each([
    ['only-when-better', 100, 240, 12],
    ['only-when-better', 500, 100, 5],
    ['rounded', 200, 100, 5],
    ['everything', 100, 20, 1],
  ] as const)('is what the attacks reach: %s, %i rows, %i files', (policy, rows, files, students) => {
    const simulated = mostReached({ policy, rows, files, students, classes: 24 });
    expect(Math.abs((probingReaches(policy, rows, files) ?? 0) - simulated)).toBeLessThan(0.03);
  });

  it('is read with fewer rows and more files than there are, so that it never says too little', () => {
    expect(probingReaches('only-when-better', 199, 101)).toBe(probingReaches('only-when-better', 100, 240));
    expect(probingReaches('only-when-better', 9999, 1)).toBe(probingReaches('only-when-better', 2000, 20));
  });

  it('says nothing beyond what was simulated, or where nothing is shown', () => {
    expect(probingReaches('everything', 49, 20)).toBeNull();
    expect(probingReaches('everything', 500, 1001)).toBeNull();
    expect(probingReaches('after-return', 500, 20)).toBeNull();
  });
});

describe('the attempts that are proposed', () => {
  it('are fewer where more is shown, on fewer rows, to more students', () => {
    expect(proposedAttempts('only-when-better', 100, 12)).toBe(20);
    expect(proposedAttempts('rounded', 2000, 12)).toBe(8);
    expect(proposedAttempts('rounded', 100, 12)).toBe(1);
    expect(proposedAttempts('everything', 500, 1)).toBe(20);
  });
});
