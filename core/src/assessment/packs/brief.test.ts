import { describe, expect, it } from '@jest/globals';
import { briefText, conditionLines } from './brief.js';
import type { ReleasedQuestion } from './released-question.js';

const policy = {
  attempts: 3,
  perDay: 1,
  counts: 'best',
  graceMinutes: 15,
  latePercent: 10,
  lateDays: 2,
} as const;

describe('the brief in a pack', () => {
  it('says when it is due, and how often answers are taken', () => {
    expect(conditionLines(policy, '2026-12-09T18:00:00Z', 'Europe/London')).toEqual([
      'Due **Wednesday 9 December, 18:00 (Europe/London)**; 15 minutes of grace, then 10 % less a day for 2 days, unless you were given a date of your own.',
      '3 attempts, 1 a day, at each question; the best counts.',
    ]);
    const plain = { ...policy, perDay: null, graceMinutes: 0, lateDays: 0, counts: 'last' } as const;
    expect(conditionLines(plain, '2026-12-09T18:00:00Z', 'UTC')).toEqual([
      'Due **Wednesday 9 December, 18:00 (UTC)**, unless you were given a date of your own.',
      '3 attempts at each question; the last counts.',
    ]);
  });

  const predictions: ReleasedQuestion = {
    id: 'q1',
    kind: 'predictions',
    title: 'Predict losses',
    text: 'Train on what you like.\n',
    marks: 10,
    example: 'example.csv',
    rules: {
      identifier: 'colony',
      identifiers: ['c1', 'c2'],
      task: 'regression',
      needs: 'numbers',
      labels: [],
      positive: null,
      metric: 'rmse',
      scheme: { nothing: 9, most: 2, all: 1, mostMarks: 8, marks: 10, doubt: false },
    },
  };
  const choice: ReleasedQuestion = {
    id: 'q2',
    kind: 'choice',
    title: 'What holds?',
    text: '',
    marks: 1,
    example: null,
    rules: { manner: 'one', statements: [{ text: 'Folds overlap.' }, { text: 'Folds do not overlap.' }] },
  };

  it('asks the questions with the form of a file, its example and the metric', () => {
    const text = briefText({ title: 'Losses', brief: ' Predict.\n\n', conditions: ['Due.'] }, [predictions]);
    expect(text).toBe(`# Losses

Due.

Predict.

## Questions

### 1. Predict losses (10 marks)

Train on what you like.

A file that names each colony of the held-out file and gives a number. Checked: every row once, nothing but numbers. What a constant or random prediction reaches earns no marks.

Judged by root mean squared error; lower is better.

An example of the file is in example.csv; it holds no answer.
`);
  });

  it('fills in what is the same for all students, and says which figures are asked', () => {
    const values: ReleasedQuestion = {
      id: 'q3',
      kind: 'values',
      title: 'A column',
      text: 'Look at **{column}** of {n} rows.',
      marks: 2,
      example: null,
      rules: {
        figures: { kind: 'column-summary', values: {} },
        computed: {
          given: { column: 'weight', n: '90' },
          table: { header: ['a', 'b'], rows: [['1', '2']] },
          asked: [{ key: 'mean', name: 'mean' }],
        },
        says: 'within half a unit',
      },
    };
    const text = briefText({ title: 'A', brief: '', conditions: [] }, [values]);
    expect(text).toContain('Look at **weight** of 90 rows.');
    expect(text).toContain('| a | b |\n| --- | --- |\n| 1 | 2 |');
    expect(text).toContain('Asked: mean.');
    // What is drawn for each student has names in braces, which say nothing without it.
    const drawn = briefText({ title: 'A', brief: '', conditions: [] }, [
      { ...values, rules: { ...values.rules, computed: null } },
    ]);
    expect(drawn).not.toContain('{');
  });

  it('leaves to the page what is another question for each student', () => {
    const text = briefText({ title: 'Folds', brief: '', conditions: [] }, [choice]);
    expect(text).toBe(`# Folds

## Questions

### 1. What holds? (1 mark)

Each student gets a question of their own: read yours on the page of the exercise.
`);
  });
});
