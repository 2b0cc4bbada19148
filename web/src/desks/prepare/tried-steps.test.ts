import { beforeEach, describe, expect, it } from '@jest/globals';
import { NO_HISTORY } from '../../kit/sentence/history.js';
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
  it('are held for each data set, and can be undone', () => {
    trySteps('a', changed({ steps: [shuffle], history: NO_HISTORY }, [shuffle, repeats]));
    expect(triedSteps('a')).toEqual({
      steps: [shuffle, repeats],
      history: { past: [[shuffle]], future: [], last: null },
    });
    expect(triedSteps('b')).toBeNull();
  });

  it('begin with those that are saved when one is added from elsewhere', () => {
    expect(addTriedStep('a', [shuffle], repeats)).toBe(1);
    expect(addTriedStep('a', [], shuffle)).toBe(2);
    expect(triedSteps('a')?.steps).toEqual([shuffle, repeats, shuffle]);
  });

  it('are forgotten where what is held is damaged', () => {
    held.set('sieve steps a', '{"steps": 7');
    expect(triedSteps('a')).toBeNull();
    for (const damaged of [
      '{"steps": 7}',
      '{"steps": [], "past": []}',
      '{"steps": [], "history": {"past": []}}',
    ]) {
      held.set('sieve steps a', damaged);
      expect(triedSteps('a')).toBeNull();
    }
  });
});
