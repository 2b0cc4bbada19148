import { describe, expect, it } from '@jest/globals';
import { keepPhrase, keptPhrases } from './phrases.js';

function store(begun: string | null = null) {
  let kept = begun;
  return {
    getItem: () => kept,
    setItem: (_: string, value: string) => {
      kept = value;
    },
  };
}

describe('comments that were written before', () => {
  it('come the last one first, each once, at most eight', () => {
    const own = store();
    for (let i = 0; i < 10; i++) keepPhrase(own, `phrase ${i}`);
    keepPhrase(own, '  phrase 5 ');
    keepPhrase(own, '   ');
    const kept = keptPhrases(own);
    expect(kept).toHaveLength(8);
    expect(kept.slice(0, 2)).toEqual(['phrase 5', 'phrase 9']);
  });

  it.each(['not JSON', '{"a":1}', '[1,2]'])('are none where %j is kept', (begun) => {
    expect(keptPhrases(store(begun))).toEqual([]);
  });
});
