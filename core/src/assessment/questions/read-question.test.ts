import { describe, expect, it } from '@jest/globals';
import { SieveError } from '../../foundation/errors.js';
import type { Roles } from '../../data/table/roles.js';
import type { Subject } from './contract/kind.js';
import { checkQuestions, QUESTION_KINDS, readQuestion } from './registry.js';

const roles: Roles = {
  target: 'survived',
  task: 'binary',
  positive: 'yes',
  identifier: 'colony',
  group: null,
  time: null,
  weight: null,
  withheld: [],
};
const subject: Subject = {
  roles,
  columns: [
    { name: 'colony', kind: 'text' },
    { name: 'mites', kind: 'number' },
    { name: 'survived', kind: 'category' },
  ],
};

const refusalOf = (body: unknown): [code: string, field: string | undefined] | null => {
  try {
    readQuestion(body, 'questions.2');
    return null;
  } catch (error) {
    if (!(error instanceof SieveError)) throw error;
    return [error.code, error.place.field];
  }
};

describe('a question that comes from outside', () => {
  const all = QUESTION_KINDS.map((kind) => ({ kind: kind.key, question: kind.begin('q1', subject) }));

  it.each(all)('$kind: is read back as it was written', ({ question }) => {
    expect(readQuestion(JSON.parse(JSON.stringify(question)), 'questions.0')).toMatchObject(question);
  });

  it.each(all)('$kind: is refused with the path of what its kind does not take', ({ question }) => {
    expect(refusalOf({ ...question, truth: true })).toEqual(['question', 'questions.2.truth']);
    expect(() => readQuestion({ ...question, key: [1] }, 'questions.2')).toThrow(
      'There is nothing called questions.2.key.',
    );
  });

  it('is refused with the path of something inside it that nobody asked for', () => {
    const { question } = all.find(({ kind }) => kind === 'values') ?? {};
    if (question?.kind !== 'values') throw new Error('no values');
    const figures = { ...question.figures, seed: 1 };
    expect(refusalOf({ ...question, figures })).toEqual(['question', 'questions.2.figures.seed']);
  });

  it('is refused with a setting that its sentence does not have', () => {
    const { question } = all.find(({ kind }) => kind === 'values') ?? {};
    if (question?.kind !== 'values') throw new Error('no values');
    const { kind, values } = question.figures;
    const wrong = { ...question, figures: { kind, values: { ...values, threshhold: 0.5 } } };
    expect(() => {
      checkQuestions([wrong], subject);
    }).toThrow('has no setting “threshhold”');
  });

  it.each(all)('$kind: is refused with the name of a field that is of another type', ({ question }) => {
    for (const [field, value] of Object.entries(question)) {
      if (field === 'kind') continue;
      const other = typeof value === 'object' && value !== null ? 'a text' : { an: 'object' };
      expect([field, refusalOf({ ...question, [field]: other })]).toEqual([
        field,
        ['question', `questions.2.${field}`],
      ]);
    }
  });

  it.each([null, 'a text', 3, [], undefined])('is refused where it is no object: %j', (body) => {
    expect(refusalOf(body)).toEqual(['question', 'questions.2']);
  });

  it('is refused where its kind is not known, and where a text is too long', () => {
    const [first] = all;
    expect(refusalOf({ ...first?.question, kind: 'essay' })?.[0]).toBe('question-kind');
    expect(refusalOf({ ...first?.question, title: 't'.repeat(201) })).toEqual([
      'question',
      'questions.2.title',
    ]);
  });

  it('has an empty field, which its kind refuses in words and not by the name of a key', () => {
    const folds = all.find(({ kind }) => kind === 'folds')?.question;
    const read = readQuestion(
      { ...folds, values: { ...(folds && 'values' in folds ? folds.values : {}), k: null } },
      'questions.0',
    );
    expect(() => checkQuestions([read], subject)).toThrow(/^Question 1: .*a number is needed/);
  });

  it('is refused with the place of what is wrong within it', () => {
    const choice = all.find(({ kind }) => kind === 'choice')?.question;
    expect(refusalOf({ ...choice, statements: [{ text: 'a', truth: 'yes' }] })).toEqual([
      'question',
      'questions.2.statements.0.truth',
    ]);
    expect(refusalOf({ ...choice, values: { manner: { a: 1 } } })).toEqual([
      'question',
      'questions.2.values.manner',
    ]);
    expect(refusalOf({ ...choice, statements: Array.from({ length: 51 }, () => ({})) })?.[0]).toBe(
      'question',
    );
  });
});
