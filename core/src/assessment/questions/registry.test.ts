import { describe, expect, it } from '@jest/globals';
import { asked, begun, material, SUBJECT } from '../../../test/asked.js';
import { fit } from '../../../test/models.js';
import { checkQuestions } from './registry.js';

describe('predictions with the benefit of the doubt', () => {
  it('have the standard error of the reference runs in the key, and in nothing that students get', () => {
    const fitted = fit(
      material().table,
      'survived',
      'binary',
      'tree',
      {},
      { features: ['weight', 'frames'] },
    );
    const scheme = { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10, doubt: true };
    const made = asked(
      begun('predictions', { metric: 'accuracy', scheme }),
      material({ references: [fitted] }),
    );
    const { margin = 0 } = 'feedback' in made.key ? made.key : {};
    // Of 30 rows a share has a standard error of at most √(0.25 / 30).
    expect(margin).toBeGreaterThan(0.02);
    expect(margin).toBeLessThan(0.095);
    expect(JSON.stringify([made.rules, made.sheet()])).not.toMatch(/margin|floor/);
  });
});

describe('the questions of an exercise', () => {
  const predictions = begun('predictions');
  it.each([
    [[], 'Add a question.'],
    [[predictions, predictions], 'Question 2 has no name of its own.'],
    [[{ ...predictions, title: ' ' }], 'Question 1: Give it a title.'],
    [[predictions, { ...begun('choice'), id: 'q2', marks: 0 }], 'Question 2: All marks are a number above 0'],
    [[{ ...predictions, metric: 'rmse' }], 'Question 1: root mean squared error does not judge this task.'],
  ])('are refused with the place of what is wrong: %#', (questions, words) => {
    expect(() => checkQuestions(questions, SUBJECT)).toThrow(words);
  });

  it('of every kind, as they are begun, can be asked', () => {
    const all = (['predictions', 'model', 'split', 'folds', 'curve', 'values', 'choice'] as const).map(
      (kind, i) => ({
        ...begun(kind),
        id: `q${i + 1}`,
      }),
    );
    expect(() => checkQuestions(all, SUBJECT)).not.toThrow();
  });
});
