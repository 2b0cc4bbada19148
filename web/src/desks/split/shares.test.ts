import { describe, expect, it } from '@jest/globals';
import { PART_NAMES } from '@modest-sieve/core';
import { withShare } from './shares.js';

const shares = { training: 70, validation: 10, heldout: 20 };

describe('a share that is changed', () => {
  it('is made up for by training, or by held-out rows when training itself changes', () => {
    expect(withShare(shares, 'heldout', 30)).toEqual({ training: 60, validation: 10, heldout: 30 });
    expect(withShare(shares, 'validation', 0)).toEqual({ training: 80, validation: 0, heldout: 20 });
    expect(withShare(shares, 'training', 80)).toEqual({ training: 80, validation: 10, heldout: 10 });
  });

  it('leaves all of them together at 100 %', () => {
    for (const part of PART_NAMES) {
      for (let value = 1; value <= 30; value++) {
        const { training, validation, heldout } = withShare(shares, part, value);
        expect(training + validation + heldout).toBe(100);
      }
    }
  });
});
