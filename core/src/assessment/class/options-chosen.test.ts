import { describe, expect, it } from '@jest/globals';
import { begun, material } from '../../../test/asked.js';
import { secretOf } from '../../../test/secrets.js';
import type { ReleasedQuestion } from '../packs/released-question.js';
import type { Keys, Question } from '../questions/question.js';
import { questionKindOf } from '../questions/registry.js';
import { optionsChosen } from './options-chosen.js';

const who = (id: string) => ({ secret: secretOf(9), question: 'q1', id });

/** A question with its key, and what a student has to type for a label. */
function made(question: Question): {
  question: ReleasedQuestion;
  key: Keys;
  keyFor: (id: string, label: string) => string;
} {
  const kind = questionKindOf(question.kind);
  const { rules, key } = kind.make(question, material());
  const released = { ...question, rules, example: null } as unknown as ReleasedQuestion;
  return {
    question: released,
    key: key,
    keyFor: (id, label) =>
      kind.sheet(released, rules, who(id)).fields.find((field) => field.label === label)?.key ?? '',
  };
}

const statements = [
  { text: 'Folds overlap', truth: false },
  { text: 'Rows of one apiary resemble one another', truth: true },
];

describe('options that a class chose', () => {
  it('are counted for each statement, whatever order a student sees', () => {
    const { question, key, keyFor } = made(begun('choice', { statements, values: { manner: 'each' } }));
    const answers = ['ada', 'ben', 'cleo'].map((id, i) => ({
      who: who(id),
      fields: { [keyFor(id, 'Folds overlap')]: i === 0 ? 'true' : 'false' },
    }));
    const found = optionsChosen(question, key, answers).filter(({ asks }) => asks === 'Folds overlap');
    expect(found).toEqual([
      { asks: 'Folds overlap', option: 'true', students: 1, asked: 3, right: false },
      { asks: 'Folds overlap', option: 'false', students: 2, asked: 3, right: true },
    ]);
  });

  it('of one statement are those statements', () => {
    const { question, key } = made(begun('choice', { statements, values: { manner: 'one' } }));
    const found = optionsChosen(question, key, [
      { who: who('ada'), fields: { chosen: '1' } },
      { who: who('ben'), fields: { chosen: '1' } },
    ]);
    expect(found.map(({ students }) => students).sort()).toEqual([0, 2]);
    expect(found.filter(({ right }) => right).map(({ option }) => option)).toEqual([
      'Rows of one apiary resemble one another',
    ]);
  });

  it('count wordings of the library that are right apart from those that are wrong', () => {
    const { question, key } = made(
      begun('choice', { statements: [{ reading: 'r2' }], values: { manner: 'each' } }),
    );
    const ids = Array.from({ length: 12 }, (_, i) => `student ${i}`);
    const found = optionsChosen(
      question,
      key,
      ids.map((id) => ({ who: who(id), fields: { s1: 'true' } })),
    ).filter(({ option }) => option === 'true');
    expect(new Set(found.map(({ right }) => right))).toEqual(new Set([true, false]));
    expect(found.reduce((sum, { students }) => sum + students, 0)).toBe(ids.length);
  });

  it('are none where nothing is chosen', () => {
    const { question, key } = made(begun('split'));
    expect(optionsChosen(question, key, [{ who: who('ada'), fields: {} }])).toEqual([]);
  });
});
