import { describe, expect, it } from '@jest/globals';
import { twofold } from '../../../test/marked.js';
import { disclose } from './disclose.js';
import { marksOfAnswer } from './marks-of-answer.js';

describe('what staff gave and wrote', () => {
  it('is disclosed with its reason, lateness or not, only where marks are told', () => {
    const result = { ...twofold, marks: 8 };
    const adjustment = { marks: 9, reason: 'A server was down.' };
    const told = (returned: boolean) =>
      disclose(result, {
        policy: 'rounded',
        returned,
        shown: null,
        latePercent: 20,
        slips: 'never',
        adjustment,
        comment: 'Look at your **threshold**.',
      });
    expect(told(true)).toMatchObject({
      ...{ marks: 9, adjusted: 'A server was down.' },
      comment: 'Look at your **threshold**.',
    });
    expect(told(false)).toMatchObject({ marks: null, adjusted: null });
    expect(told(false)).not.toHaveProperty('comment');
    expect(marksOfAnswer({ marks: null }, 0, adjustment)).toBeNull();
    expect(marksOfAnswer({ marks: 8 }, 25, null)).toBe(6);
  });
});
