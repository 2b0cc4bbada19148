import { describe, expect, it } from '@jest/globals';
import { key, marked, predicted } from '../../../test/marked.js';

describe('the submission that counts where the best does', () => {
  it('is decided by the feedback rows: luck on the final rows earns no place', () => {
    // Two files: one better on the feedback rows, the other on the final rows.
    const byRows = (wrong: 'feedback' | 'final') =>
      marked(
        predicted((i) => {
          const isWrong = (key.feedback[i] === 1) === (wrong === 'feedback') && i % 8 < 3;
          return (i % 2 === 1) !== isWrong ? 0.9 : 0.1;
        }),
      );
    const [worseOpen, worseFinal] = [byRows('feedback'), byRows('final')];
    expect(worseOpen.marks).toBeGreaterThan(worseFinal.marks ?? Infinity);
    expect(worseOpen.standing).toBeLessThan(worseFinal.standing ?? -Infinity);
  });
});
