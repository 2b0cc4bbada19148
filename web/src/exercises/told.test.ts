import { describe, expect, it } from '@jest/globals';
import { feedbackWords } from './policy-sentence.js';
import { saidIn } from './said.js';

describe('what students are shown before the return', () => {
  it('is said of the kinds of question that there are', () => {
    expect(feedbackWords('rounded', ['predictions', 'values'])).toBe(
      'a rounded score on half of the held-out rows',
    );
    expect(feedbackWords('only-when-better', ['predictions', 'folds'])).toBe(
      'a score only when it is better, and which checks of a split, folds or a curve hold',
    );
    expect(feedbackWords('rounded', ['split', 'values'])).toBe(
      'which checks of a split, folds or a curve hold',
    );
    expect(feedbackWords('rounded', ['values', 'choice'])).toBe('nothing but the file checks');
  });

  it('hangs on no kind where everything or nothing is told', () => {
    for (const kinds of [['predictions'], ['choice'], []] as const) {
      expect(feedbackWords('after-return', kinds)).toBe('nothing but the file checks');
      expect(feedbackWords('everything', kinds)).toBe('everything, as practice');
    }
  });
});

describe('what was said in fields', () => {
  const fields = [
    { key: 's1', label: 'Folds overlap', choices: [{ value: 'false', text: 'not true' }] },
    { key: 'mean', label: 'mean over the folds', choices: null },
  ];

  it('is in the words of the sheet, in its order, and nothing where nothing was said', () => {
    expect(saidIn({ fields }, { mean: '0.8', s1: 'false', other: '1' })).toEqual([
      { label: 'Folds overlap', text: 'not true' },
      { label: 'mean over the folds', text: '0.8' },
    ]);
    expect(saidIn({ fields }, { s1: 'maybe' })).toEqual([{ label: 'Folds overlap', text: 'maybe' }]);
    expect(saidIn({ fields }, {})).toEqual([]);
  });
});
