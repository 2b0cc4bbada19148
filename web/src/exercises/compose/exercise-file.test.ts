import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { QUESTION_KINDS } from '@modest-sieve/core/assessment';
import { Ajv } from 'ajv';
import { pastedCells } from '../answer/answer-fields.js';
import { DATA } from '../common/data-of-tests.js';
import { fileOf, readExercise as readFile } from './exercise-file.js';
import { firstSettings, newQuestion } from '../common/settings.js';

describe('cells pasted from a spreadsheet', () => {
  it.each([
    ['0.8\n0.9\n', ['0.8', '0.9']],
    ['0.8\t0.9', ['0.8', '0.9']],
    ['precision\t0.8\r\nrecall\t0.9\r\n', ['0.8', '0.9']],
    ['0.8', ['0.8']],
  ])('%j are %j', (text, cells) => {
    expect(pastedCells(text)).toEqual(cells);
  });
});

describe('an exercise from a file', () => {
  const { splitId, foldSetId, opensAt, deadline, ...settings } = firstSettings(
    'of another course',
    DATA,
    'UTC',
  );
  const questions = QUESTION_KINDS.map(({ key }, i) => ({
    ...newQuestion(key, [], DATA, 'split'),
    id: `q${i + 1}`,
  }));
  const ofKind = (wanted: string) => questions.find(({ kind }) => kind === wanted);
  const file = {
    version: 1,
    ...settings,
    title: 'Hives',
    attempts: 3,
    questions,
    splitId,
    foldSetId,
    opensAt,
    deadline,
  };
  const readExercise = (text: string) => readFile(text, DATA);

  it('brings what can be asked again, and nothing of the course it comes from', () => {
    const read = readExercise(JSON.stringify(file));
    expect(read).toMatchObject({
      title: 'Hives',
      attempts: 3,
      questions: questions.map(({ id }) => ({ id })),
    });
    expect(read).not.toHaveProperty('splitId');
  });

  it.each([
    ['{', 'not JSON'],
    ['[]', 'no exercise'],
    ['{"questions": []}', 'no exercise'],
    ['{"version": 2, "questions": [1]}', 'of version 2'],
    ['{"version": 1, "questions": []}', 'no questions'],
    ['{"version": 1, "questions": [{"id": "q1"}]}', 'Question 1 of the file is of a kind that is not known'],
    ['{"version": 1, "questions": [{"id": "q1", "kind": "riddle"}]}', 'Question 1 of the file'],
  ])('%s is refused, and it is said why', (text, words) => {
    expect(readExercise(text)).toMatchObject({ wrong: expect.stringContaining(words) });
  });

  it.each([
    ['title', 7, '“title”'],
    ['attempts', undefined, '“attempts”'],
    ['feedback', 'gossip', 'feedback'],
    ['counts', 'middle', 'which answer counts'],
    ['questions', [{ ...ofKind('values'), figures: { kind: 'dice', values: {} } }], 'Question 1'],
    ['questions', [{ ...ofKind('choice'), statements: 'none' }], 'Question 1'],
    ['questions', [{ ...questions[0], scheme: null }], 'Question 1'],
  ])('that has another %s than could be drawn is refused: %j', (key, value, words) => {
    expect(readExercise(JSON.stringify({ ...file, [key]: value }))).toMatchObject({
      wrong: expect.stringContaining(words),
    });
  });

  it('is handed out as the published schema says, with every kind of question', () => {
    const schema = JSON.parse(
      readFileSync(new URL('../../../../docs/api/exercise.schema.json', import.meta.url), 'utf8'),
    ) as object;
    const isValid = new Ajv({ strict: false }).compile(schema);
    const out = fileOf({ ...firstSettings('of another course', DATA, 'UTC'), questions });
    const handedOut = JSON.parse(JSON.stringify(out)) as Record<string, unknown>;
    isValid(handedOut);
    expect(isValid.errors).toBeNull();
    expect(readExercise(JSON.stringify(handedOut))).toMatchObject({ questions: out.questions });
    for (const wrong of [
      { version: 2 },
      { questions: [{ ...questions[2], kind: 'riddle' }] },
      { splitId: 'x' },
    ])
      expect(isValid({ ...handedOut, ...wrong })).toBe(false);
  });
});
