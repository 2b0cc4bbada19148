import { describe, expect, it } from '@jest/globals';
import { deadlineText } from './deadline.js';

describe('a deadline', () => {
  it('is told in the time zone of the course, whatever that of the machine', () => {
    expect(deadlineText('2026-12-09T18:00:00Z', 'Europe/London')).toBe(
      'Wednesday 9 December, 18:00 (Europe/London)',
    );
    expect(deadlineText('2026-12-09T18:00:00Z', 'Pacific/Auckland')).toBe(
      'Thursday 10 December, 07:00 (Pacific/Auckland)',
    );
    // Midnight is the beginning of a day, in summer time too.
    expect(deadlineText('2027-06-30T22:00:00Z', 'Europe/Berlin')).toBe(
      'Thursday 1 July, 00:00 (Europe/Berlin)',
    );
  });
});
