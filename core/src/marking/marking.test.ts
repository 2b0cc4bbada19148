import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bytesOf } from '../../test/files.js';
import type { AnswerKey } from '../check/judge.js';
import { check } from '../check/check.js';
import { metricNamed } from '../metrics/registry.js';
import type { Answer, PredictionsQuestion } from '../questions/question.js';
import type { PredictionsRules } from '../questions/rules.js';
import { PUBLIC_SECRET } from '../random/secret.js';
import { disclose, marksOfAnswer, type FeedbackPolicy } from './disclose.js';
import { lineFor } from './doubt.js';
import { markAnswer, type Result } from './result.js';
import { checkScheme, firstScheme, marksFor, type MarkScheme } from './scheme.js';
import { standardErrors } from './standard-errors.js';

const area: MarkScheme = { nothing: 0.5, most: 0.78, all: 0.84, mostMarks: 8, marks: 10 };
const error: MarkScheme = { nothing: 10, most: 6, all: 5, mostMarks: 8, marks: 10 };

describe('marks from a score', () => {
  it.each([
    [area, 0.4, 0],
    [area, 0.5, 0],
    [area, 0.64, 4],
    [area, 0.78, 8],
    [area, 0.81, 9],
    [area, 0.84, 10],
    [area, 0.99, 10],
    [area, null, 0],
    [error, 12, 0],
    [error, 8, 4],
    [error, 6, 8],
    [error, 5.5, 9],
    [error, 1, 10],
  ])('%j at %s gives %d', (scheme, score, marks) => {
    expect(marksFor(scheme, score)).toBe(marks);
  });

  it('never fall as the score gets better', () => {
    const score = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(score, score, (a, b) => {
        expect(marksFor(area, Math.max(a, b))).toBeGreaterThanOrEqual(marksFor(area, Math.min(a, b)));
      }),
    );
  });
});

describe('a scheme', () => {
  const rocAuc = metricNamed('roc_auc');
  it.each([
    [{ ...area, most: 0.9 }, rocAuc, 'The points must get higher from nothing to most to all'],
    [error, metricNamed('r2'), 'is no value that R² can take'],
    [area, metricNamed('rmse'), 'The points must get lower from nothing to most to all'],
    [{ ...area, all: 1.2 }, rocAuc, '1.2 is no value that area under the ROC curve can take.'],
    [{ ...area, mostMarks: 10 }, rocAuc, 'The marks for most lie between 0 and 10.'],
    [{ ...area, marks: 0 }, rocAuc, 'All marks are a number above 0'],
    [{ ...area, nothing: NaN }, rocAuc, 'A point on the line is a number.'],
  ])('%j is refused', (scheme, metric, message) => {
    expect(() => checkScheme(scheme, metric)).toThrow(message);
  });

  it('that fits is accepted in either direction of better', () => {
    expect(() => checkScheme(area, rocAuc)).not.toThrow();
    expect(() => checkScheme(error, metricNamed('rmse'))).not.toThrow();
  });
});

const n = 40;
const identifiers = Array.from({ length: n }, (_, i) => `r${i}`);
const question: PredictionsQuestion = {
  id: 'q1',
  kind: 'predictions',
  title: 'Predict',
  text: '',
  metric: 'roc_auc',
  scheme: area,
};
const rules: PredictionsRules = {
  identifier: 'id',
  identifiers,
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  needs: 'probabilities',
  metric: 'roc_auc',
  scheme: area,
};
const key: AnswerKey = {
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  classes: Int32Array.from({ length: n }, (_, i) => i % 2),
  values: null,
  groups: null,
  feedback: Uint8Array.from({ length: n }, (_, i) => (i < 20 ? 1 : 0)),
};
const who = { secret: PUBLIC_SECRET, question: 'q1', id: 'somebody' };
const answer = (text: string): Answer => ({ file: { name: 'f.csv', bytes: bytesOf(text) }, fields: {} });
const predicted = (p: (i: number) => number) =>
  answer(`id,probability\n${identifiers.map((id, i) => `${id},${p(i)}`).join('\n')}\n`);
const marked = (given: Answer) =>
  markAnswer(question, given, rules, key, { who, stepped: false, before: null });
// Right on the feedback rows, wrong on the final ones.
const twofold = marked(predicted((i) => (i < 20 ? (i % 2 ? 0.9 : 0.1) : i % 2 ? 0.1 : 0.9)));

describe('a result', () => {
  it('is scored on feedback and on final rows apart, and marked by the final ones', () => {
    expect(twofold.scored?.feedback).toMatchObject({ rows: 20, score: { value: 1 } });
    expect(twofold.scored?.final).toMatchObject({ rows: 20, score: { value: 0 } });
    expect(twofold.marks).toBe(0);
  });

  it('carries every metric of the task and the answer grid', () => {
    expect(twofold.scored?.final.others).toHaveProperty('brier');
    expect(twofold.scored?.final.grid).toEqual({
      labels: ['no', 'yes'],
      counts: [
        [0, 10],
        [10, 0],
      ],
    });
  });

  it('of a file that fails its checks has no score and no marks', () => {
    expect(marked(answer('id,probability\nr0,2\n'))).toMatchObject({
      holds: false,
      scored: null,
      marks: null,
    });
  });

  it('is the same however often it is made', () => {
    const again = () => marked(predicted((i) => ((i * 7) % 10) / 10));
    expect(again()).toEqual(again());
  });
});

describe('the line by which a score is marked', () => {
  const accuracy = metricNamed('accuracy');
  const rmse = metricNamed('rmse');
  const scheme: MarkScheme = { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10, doubt: true };
  const errors: MarkScheme = { nothing: 10, most: 7, all: 5, mostMarks: 8, marks: 10, doubt: true };

  it('is nearer by one margin for everybody with the benefit of the doubt', () => {
    const { nothing, most, all } = lineFor(scheme, accuracy, null, 0.04);
    expect([nothing, most, all].map((one) => Number(one.toFixed(3)))).toEqual([0.5, 0.76, 0.86]);
    expect(lineFor(errors, rmse, null, 0.4)).toMatchObject({ nothing: 10, most: 7.4, all: 5.4 });
    expect(lineFor({ ...scheme, doubt: false }, accuracy, null, 0.04)).toEqual({ ...scheme, doubt: false });
  });

  it('begins at what shows work, where that is beyond the point for nothing', () => {
    expect(lineFor(scheme, accuracy, 0.62, 0).nothing).toBe(0.62);
    expect(lineFor(scheme, accuracy, 0.4, 0).nothing).toBe(0.5);
    expect(lineFor(errors, rmse, 9, 0).nothing).toBe(9);
  });

  it('never gives fewer marks for a higher score, whatever floor and margin are', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        share,
        share,
        fc.double({ min: 0, max: 0.79, noNaN: true }),
        share,
        (a, b, floor, margin) => {
          const line = lineFor(scheme, accuracy, floor, margin);
          const [low, high] = [Math.min(a, b), Math.max(a, b)].map((score) => marksFor(line, score));
          expect(low).toBeLessThanOrEqual(high ?? NaN);
          expect(marksFor(line, floor)).toBe(0);
        },
      ),
    );
  });
});

describe('what is disclosed', () => {
  const open = (policy: FeedbackPolicy, shown: number | null = null, result: Result = twofold) =>
    disclose(result, { policy, returned: false, shown, latePercent: 0, adjustment: null });

  it('is nothing but the checks until the return, under “after-return”', () => {
    expect(open('after-return')).toMatchObject({
      checks: twofold.checks,
      holds: true,
      judged: null,
      marks: null,
      scored: { feedback: null, notBetter: false, final: null },
    });
  });

  it('is a rounded feedback score and no final figure, grid, interval or marks, under “rounded”', () => {
    const told = open('rounded');
    expect(told.scored?.feedback).toEqual({ rows: 20, score: 1, rounded: true, interval: null, grid: null });
    expect(told.scored?.final).toBeNull();
    expect(told.marks).toBeNull();
    expect(JSON.stringify(told)).not.toMatch(/counts|residual|low/);
  });

  it('rounds so far that one answer more or less rarely shows', () => {
    const score = (value: number) => {
      const { scored } = twofold;
      const feedback = scored?.feedback && { ...scored.feedback, score: { value } };
      return open('rounded', null, {
        ...twofold,
        scored: scored && { ...scored, feedback: feedback ?? null },
      }).scored?.feedback?.score;
    };
    expect([score(0.7749), score(0.7751), score(123.4), score(0)]).toEqual([0.75, 0.8, 120, 0]);
  });

  it('is the score itself, with interval and answer grid of the feedback rows, under “everything”', () => {
    const told = open('everything');
    expect(told.scored?.feedback).toMatchObject({
      score: 1,
      rounded: false,
      grid: { labels: ['no', 'yes'] },
    });
    expect(told.scored?.final).toBeNull();
    expect(told.marks).toBeNull();
    const { scored } = twofold;
    const loss = open('everything', null, {
      ...twofold,
      scored: scored && { ...scored, metric: 'log_loss' },
    });
    expect(loss.scored?.feedback?.rounded).toBe(true);
  });

  it.each(['log_loss', 'brier'] as const)('tells no label of a single row by %s', (metric) => {
    // Eight rows, each changed alone to a sure “no”: what is shown must not rise or fall with their labels.
    const told = (sure: number | null, policy: FeedbackPolicy) => {
      const given = predicted((i) => (i === sure ? 0 : 0.5));
      const result = markAnswer({ ...question, metric }, given, { ...rules, metric }, key, {
        who,
        stepped: false,
        before: null,
      });
      return open(policy, null, result).scored?.feedback;
    };
    for (const policy of ['rounded', 'everything'] as const) {
      const seen = Array.from({ length: 8 }, (_, row) => told(row, policy));
      expect(new Set(seen.map((one) => one?.score)).size).toBe(1);
      for (const one of [told(null, policy), ...seen]) expect(one?.interval ?? null).toBeNull();
    }
  });

  it('is a score only when it beats the best shown, under “only-when-better”', () => {
    const given = predicted((i) => (i % 2 ? 0.9 : 0.1));
    const result = markAnswer(question, given, rules, key, { who, stepped: true, before: null });
    const after = (shown: number) => open('only-when-better', shown, result).scored;
    expect(after(0.5)).toMatchObject({ feedback: { score: 1 }, notBetter: false, fewRows: false });
    expect(after(1)).toMatchObject({ feedback: null, notBetter: true, fewRows: false });
    // A result without its steps is of an earlier version.
    expect(open('only-when-better', 0.5).scored).toMatchObject({ feedback: null, fewRows: true });
  });

  it('takes off what lateness costs, and says so', () => {
    const result = { ...twofold, marks: 8 };
    const late = disclose(result, {
      policy: 'rounded',
      returned: true,
      shown: null,
      latePercent: 20,
      adjustment: null,
    });
    expect(late).toMatchObject({ marks: 6.4, outOf: 10, latePercent: 20 });
  });

  it('has the marks that staff gave, lateness or not, with the reason, and only where marks are told', () => {
    const result = { ...twofold, marks: 8 };
    const adjustment = { marks: 9, reason: 'A server was down.' };
    const told = (returned: boolean) =>
      disclose(result, { policy: 'rounded', returned, shown: null, latePercent: 20, adjustment });
    expect(told(true)).toMatchObject({ marks: 9, adjusted: 'A server was down.' });
    expect(told(false)).toMatchObject({ marks: null, adjusted: null });
    expect(marksOfAnswer({ marks: null }, 0, adjustment)).toBeNull();
    expect(marksOfAnswer({ marks: 8 }, 25, null)).toBe(6);
  });

  it('is all but residuals of single rows once returned', () => {
    const returned = disclose(twofold, {
      policy: 'after-return',
      returned: true,
      shown: null,
      latePercent: 0,
      adjustment: null,
    });
    expect(returned).toMatchObject({
      marks: 0,
      outOf: 10,
      scored: { final: { score: 0 }, feedback: { score: 1, rounded: false } },
    });
    expect(JSON.stringify(returned)).not.toContain('residual');
  });

  it('says of a student’s own folds at once which checks hold, and of values nothing, or no key, before the return', () => {
    const right = check('precision', 'fails', 'precision is not right', {
      measured: '0.8',
      expected: '0.869',
    });
    const of = (kind: Result['kind']): Result => ({
      ...twofold,
      kind,
      scored: null,
      judged: [{ check: right, marks: 0, outOf: 2 }],
      marks: 0,
      outOf: 2,
    });
    expect(open('rounded', null, of('folds'))).toMatchObject({ judged: [{ check: right }], marks: 0 });
    expect(open('after-return', null, of('folds'))).toMatchObject({ judged: null, marks: null });
    expect(open('only-when-better', null, of('values'))).toMatchObject({ judged: null, marks: null });
    expect(JSON.stringify(open('everything', null, of('values')))).not.toContain('0.869');
    expect(JSON.stringify(open('everything', null, of('choice')))).not.toContain('0.869');
    expect(
      JSON.stringify(
        disclose(of('values'), {
          policy: 'rounded',
          returned: true,
          shown: null,
          latePercent: 0,
          adjustment: null,
        }),
      ),
    ).toContain('0.869');
  });
});

describe('the line to begin with', () => {
  it.each([
    ['rmse', 3, [3, 2.1, 1.5]],
    ['mse', 3, [9, 6.3, 4.5]],
    ['mape', 3, [1, 0.7, 0.5]],
    ['brier', 1, [0.25, 0.13, 0.075]],
    ['log_loss', 1, [0.69, 0.34, 0.21]],
    ['accuracy', 1, [0.5, 0.75, 0.85]],
    ['mcc', 1, [0, 0.5, 0.7]],
    ['r2', 1, [0, 0.5, 0.7]],
  ] as const)('of %s follows from what guessing costs', (key, sd, points) => {
    const { nothing, most, all } = firstScheme(metricNamed(key), sd);
    expect([nothing, most, all]).toEqual(points);
  });
});

describe('the standard error of a score', () => {
  it('is 0 where the score is undefined with any block of rows left out', () => {
    const one = {
      kind: 'labels' as const,
      data: {
        labels: ['no', 'yes'],
        truth: Int32Array.of(0, 1),
        predicted: Int32Array.of(0, 1),
        probabilities: [Float64Array.of(0.9, 0.1), Float64Array.of(0.1, 0.9)],
        positive: 1,
        weights: null,
      },
    };
    expect(standardErrors(metricNamed('roc_auc'), one, one, null)).toEqual({ own: 0, paired: 0 });
  });
});

describe('checks of a student’s own rows', () => {
  const judged = [
    { check: check('work', 'fails', 'Every row has the same prediction.'), marks: 0, outOf: 0 },
    { check: check('sizes', 'fails', 'Folds are not of equal size'), marks: 0, outOf: 2 },
    { check: check('groups', 'holds', 'No apiary is split'), marks: 0, outOf: 2 },
    {
      check: check('evidence', 'unsure', 'Figures recomputed', { measured: 'mean 0.8' }),
      marks: 0,
      outOf: 0,
    },
  ];
  const folds: Result = {
    kind: 'folds',
    checks: [],
    holds: true,
    rows: 10,
    judged,
    marks: 0,
    outOf: 4,
    scored: null,
    standing: 0,
  };
  const idsOf = (policy: FeedbackPolicy, returned: boolean, result = folds) =>
    disclose(result, { policy, returned, shown: null, latePercent: 0, adjustment: null }).judged?.map(
      ({ check: { id } }) => id,
    ) ?? null;

  it('that say that work is missing are shown at once under every policy, evidence to staff alone', () => {
    expect(idsOf('after-return', false)).toEqual(['work']);
    expect(idsOf('rounded', false)).toEqual(['work', 'sizes', 'groups']);
    expect(idsOf('after-return', true)).toEqual(['work', 'sizes', 'groups']);
  });

  it('of values, statements and predictions wait for the return, for they follow from the key', () => {
    for (const kind of ['values', 'choice', 'predictions'] as const)
      expect(idsOf('after-return', false, { ...folds, kind })).toBeNull();
    expect(idsOf('everything', false, { ...folds, kind: 'predictions' })).toBeNull();
    expect(idsOf('everything', true, { ...folds, kind: 'predictions' })).toEqual(['work', 'sizes', 'groups']);
  });

  it('show what decides which submission counts only once it is returned', () => {
    const standing = (returned: boolean) =>
      disclose(
        { ...folds, marks: 3, standing: 2 },
        { policy: 'everything', returned, shown: null, latePercent: 50, adjustment: null },
      ).standing;
    expect([standing(false), standing(true)]).toEqual([null, 1]);
  });
});

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
