import { describe, expect, it } from '@jest/globals';
import { arrivals } from './hand-in-times.js';

const at = (text: string) => Date.parse(text);

describe('answers over time', () => {
  it('are counted by the hour, with the hours in which none came', () => {
    const { step, bins } = arrivals([
      at('2026-12-01T12:59:59Z'),
      at('2026-12-01T10:00:00Z'),
      at('2026-12-01T10:30:00Z'),
    ]);
    expect(step).toBe(3_600_000);
    expect(bins.map(({ answers }) => answers)).toEqual([2, 0, 1]);
    expect(bins[0]?.from).toBe(at('2026-12-01T10:00:00Z'));
  });

  it('are counted by days where hours are too many, and by several where days are', () => {
    const days = arrivals([at('2026-12-01T10:00:00Z'), at('2026-12-11T10:00:00Z')]);
    expect(days.bins).toHaveLength(11);
    const long = arrivals([at('2025-01-01T00:00:00Z'), at('2026-12-31T00:00:00Z')]);
    expect(long.bins.length).toBeLessThanOrEqual(61);
    expect(long.bins.reduce((sum, { answers }) => sum + answers, 0)).toBe(2);
  });

  it('are none before any came', () => {
    expect(arrivals([]).bins).toEqual([]);
  });
});
