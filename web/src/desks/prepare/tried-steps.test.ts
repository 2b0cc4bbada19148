import { beforeEach, describe, expect, it } from '@jest/globals';
import { addTriedStep, changed, triedSteps, trySteps } from './tried-steps.js';

const shuffle = { kind: 'shuffle', values: { seed: 1 } };
const repeats = { kind: 'drop-repeated', values: { columns: [] } };

const held = new Map<string, string>();
beforeEach(() => {
  held.clear();
  globalThis.localStorage = {
    getItem: (key: string) => held.get(key) ?? null,
    setItem: (key: string, value: string) => void held.set(key, value),
  } as Storage;
});

describe('steps that are tried', () => {
  it('are held for each data set, and can be taken back', () => {
    trySteps('a', changed({ steps: [shuffle], past: [] }, [shuffle, repeats]));
    expect(triedSteps('a')).toEqual({ steps: [shuffle, repeats], past: [[shuffle]] });
    expect(triedSteps('b')).toBeNull();
  });

  it('begin with those that are kept when one is added from elsewhere', () => {
    expect(addTriedStep('a', [shuffle], repeats)).toBe(1);
    expect(addTriedStep('a', [], shuffle)).toBe(2);
    expect(triedSteps('a')?.steps).toEqual([shuffle, repeats, shuffle]);
  });

  it('are forgotten where what is held is damaged', () => {
    held.set('sieve steps a', '{"steps": 7');
    expect(triedSteps('a')).toBeNull();
    held.set('sieve steps a', '{"steps": 7}');
    expect(triedSteps('a')).toBeNull();
  });
});
