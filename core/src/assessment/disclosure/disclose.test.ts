import { describe, expect, it } from '@jest/globals';
import { key, predicted, question, rules, twofold, who } from '../../../test/marked.js';
import { check } from '../../foundation/check.js';
import { disclose } from './disclose.js';
import type { FeedbackPolicy } from '../policy/feedback.js';
import { markAnswer, type Result } from './result.js';

describe('what is disclosed', () => {
  const open = (policy: FeedbackPolicy, shown: number | null = null, result: Result = twofold) =>
    disclose(result, {
      policy,
      returned: false,
      shown,
      latePercent: 0,
      slips: 'never',
      adjustment: null,
      comment: null,
    });

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
      slips: 'never',
      adjustment: null,
      comment: null,
    });
    expect(late).toMatchObject({ marks: 6.4, outOf: 10, latePercent: 20 });
  });

  it('is all but residuals of single rows once returned', () => {
    const returned = disclose(twofold, {
      policy: 'after-return',
      returned: true,
      shown: null,
      latePercent: 0,
      slips: 'never',
      adjustment: null,
      comment: null,
    });
    expect(returned).toMatchObject({
      marks: 0,
      outOf: 10,
      scored: { final: { score: 0 }, feedback: { score: 1, rounded: false } },
    });
    expect(JSON.stringify(returned)).not.toContain('residual');
  });

  it('has the line that gave the marks once returned, and not before', () => {
    const result = markAnswer(
      question,
      predicted((i) => (i % 2 ? 0.6 : 0.4) + (i % 5) / 20),
      rules,
      { ...key, floor: 0.62, margin: 0 },
      { who, stepped: false, before: null },
    );
    const lineOf = (returned: boolean) =>
      disclose(result, {
        policy: 'everything',
        returned,
        shown: null,
        latePercent: 0,
        slips: 'never',
        adjustment: null,
        comment: null,
      }).scored?.final?.line;
    expect(lineOf(true)).toEqual({ ...rules.scheme, nothing: 0.62 });
    expect(lineOf(false)).toBeUndefined();
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
          slips: 'never',
          adjustment: null,
          comment: null,
        }),
      ),
    ).toContain('0.869');
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
    disclose(result, {
      policy,
      returned,
      shown: null,
      latePercent: 0,
      slips: 'never',
      adjustment: null,
      comment: null,
    }).judged?.map(({ check: { id } }) => id) ?? null;

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
        {
          policy: 'everything',
          returned,
          shown: null,
          latePercent: 50,
          slips: 'never',
          adjustment: null,
          comment: null,
        },
      ).standing;
    expect([standing(false), standing(true)]).toEqual([null, 1]);
  });
});
