import { describe, expect, it } from '@jest/globals';
import { QUESTION_KINDS } from '@modest-sieve/core/assessment';
import { DATA } from './data-of-tests.js';
import { draftIn, questionsIn } from './saved-drafts.js';
import { fieldsIn } from './saved-fields.js';
import { firstSettings, newQuestion } from './settings.js';
import { savedIn } from './use-saved.js';

const start = firstSettings('split', DATA, 'UTC');
const settings = {
  ...start,
  questions: QUESTION_KINDS.map(({ key }, i) => ({ ...newQuestion(key, [], DATA, 'split'), id: `q${i}` })),
};
const read = (saved: unknown) => draftIn(saved, start, DATA);

describe('an exercise that was saved over a reload', () => {
  it('comes back as it was, with every kind of question', () => {
    const text = JSON.stringify(settings);
    expect(JSON.stringify(savedIn(text, read))).toBe(text);
  });

  it.each([
    ['nothing', null],
    ['no JSON', '{'],
    ['a list', '[]'],
    ['a question of no kind', JSON.stringify({ ...settings, questions: [{ id: 'q', kind: 'riddle' }] })],
    ['no questions', JSON.stringify({ ...settings, questions: 7 })],
    ['a text for a number', JSON.stringify({ ...settings, attempts: 'five' })],
    ['no deadline', JSON.stringify({ ...settings, deadline: undefined })],
  ])('is dropped where %s was saved', (_, text) => {
    expect(savedIn(text, read)).toBeNull();
  });
});

describe('what else was saved', () => {
  it('is questions, each with what its kind has, or nothing', () => {
    expect(savedIn(JSON.stringify(settings.questions), (saved) => questionsIn(saved, DATA))).toHaveLength(
      QUESTION_KINDS.length,
    );
    expect(
      savedIn('[{"id":"q","kind":"choice","statements":7}]', (saved) => questionsIn(saved, DATA)),
    ).toBeNull();
  });

  it('is texts by their fields, or nothing', () => {
    expect(savedIn('{"recall":"0.8"}', fieldsIn)).toEqual({ recall: '0.8' });
    for (const text of ['{"recall":0.8}', '["0.8"]', 'null']) expect(savedIn(text, fieldsIn)).toBeNull();
  });
});
