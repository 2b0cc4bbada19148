import { describe, expect, it } from '@jest/globals';
import { binned } from './marks-bins.js';

describe('ranges of marks', () => {
  it('count every student once, all marks in the last one', () => {
    const bins = binned([0, 1.99, 2, 15, 14.5], 15);
    expect(bins.map(({ text }) => text)).toEqual([
      '0–2',
      '2–4',
      '4–6',
      '6–8',
      '8–10',
      '10–12',
      '12–14',
      '14–15',
    ]);
    expect(bins.map(({ students }) => students)).toEqual([2, 1, 0, 0, 0, 0, 0, 2]);
  });

  it('are one for each mark where these are few, and at most ten', () => {
    expect(binned([], 3).map(({ text }) => text)).toEqual(['0–1', '1–2', '2–3']);
    expect(binned([0.4], 0.5)).toEqual([{ text: '0–0.5', students: 1 }]);
    expect(binned([], 137).length).toBeLessThanOrEqual(10);
  });
});
