import { describe, expect, it } from '@jest/globals';
import { feedbackWords } from './feedback-words.js';
import { probingWords } from './probing-note.js';
import { saidIn } from './said.js';

describe('what students are shown before the return', () => {
  it('is said of the kinds of question that there are', () => {
    expect(feedbackWords('rounded', ['score', 'key'])).toBe('a rounded score on half of the held-out rows');
    expect(feedbackWords('only-when-better', ['score', 'work'])).toBe(
      'a score only when it is better, and which checks of a split, folds or a curve hold',
    );
    expect(feedbackWords('rounded', ['work', 'key'])).toBe('which checks of a split, folds or a curve hold');
    expect(feedbackWords('rounded', ['key', 'key'])).toBe('nothing but the file checks');
  });

  it('depends on no kind where everything or nothing is told', () => {
    for (const marked of [['score'], ['key'], []] as const) {
      expect(feedbackWords('after-return', marked)).toBe('nothing but the file checks');
      expect(feedbackWords('everything', marked)).toBe('everything, as practice');
    }
  });
});

describe('what probing gains', () => {
  const policy = (feedback: 'after-return' | 'only-when-better' | 'everything', attempts: number) =>
    ({ feedback, attempts }) as Parameters<typeof probingWords>[0];

  it('is said for one student and for twelve who share, of these rows and attempts', () => {
    expect(probingWords(policy('only-when-better', 20), 120, 1)).toBe(
      '120 feedback rows of two equal classes, where guessing reaches 0.50: by probing, one student reaches 0.53, and 12 who share what they are shown reach 0.59.',
    );
  });

  it('counts the files of every question that is scored on the rows', () => {
    expect(probingWords(policy('only-when-better', 10), 120, 2)).toBe(
      probingWords(policy('only-when-better', 20), 120, 1),
    );
    expect(probingWords(policy('everything', 20), 120, 0)).toBeNull();
  });

  it('is nothing where no score is shown, and says so beyond what was simulated', () => {
    expect(probingWords(policy('after-return', 20), 120, 1)).toBeNull();
    expect(probingWords(policy('everything', 200), 20, 1)).toContain(
      'one student reaches more than was simulated',
    );
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
