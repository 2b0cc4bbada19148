import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bytesOf } from '../../test/files.js';
import type { AnswerKey } from '../check/judge.js';
import type { PredictionRules } from '../check/rules.js';
import { metricNamed } from '../metrics/registry.js';
import { disclose } from './disclose.js';
import { markSubmission } from './result.js';
import { checkScheme, marksFor, type MarkScheme } from './scheme.js';

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
const rules: PredictionRules = {
  identifier: 'id',
  identifiers,
  task: 'binary',
  labels: ['no', 'yes'],
  positive: 'yes',
  needs: 'probabilities',
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
const marking = { metric: 'roc_auc', scheme: area, seed: 9 };
const file = (p: (i: number) => number) =>
  bytesOf(`id,probability\n${identifiers.map((id, i) => `${id},${p(i)}`).join('\n')}\n`);
// Right on the feedback rows, wrong on the final ones.
const twofold = markSubmission(
  file((i) => (i < 20 ? (i % 2 ? 0.9 : 0.1) : i % 2 ? 0.1 : 0.9)),
  'f.csv',
  rules,
  key,
  marking,
);

describe('a result', () => {
  it('is scored on feedback and on final rows apart, and marked by the final ones', () => {
    expect(twofold.feedback).toMatchObject({ rows: 20, score: { value: 1 } });
    expect(twofold.final).toMatchObject({ rows: 20, score: { value: 0 } });
    expect(twofold.marks).toBe(0);
  });

  it('carries every metric of the task and the answer grid', () => {
    expect(twofold.final?.others).toHaveProperty('brier');
    expect(twofold.final?.grid).toEqual({
      labels: ['no', 'yes'],
      counts: [
        [0, 10],
        [10, 0],
      ],
    });
  });

  it('of a file that fails its checks has no score and no marks', () => {
    const refused = markSubmission(bytesOf('id,probability\nr0,2\n'), 'f.csv', rules, key, marking);
    expect(refused).toMatchObject({ holds: false, final: null, feedback: null, marks: null });
  });

  it('is the same however often it is made', () => {
    const again = () =>
      markSubmission(
        file((i) => ((i * 7) % 10) / 10),
        'f.csv',
        rules,
        key,
        marking,
      );
    expect(again()).toEqual(again());
  });
});

describe('what is disclosed', () => {
  it('is nothing but the checks until the return, under “after-return”', () => {
    const open = disclose(twofold, 'after-return', false);
    expect(open).toEqual({
      checks: twofold.checks,
      holds: true,
      metric: 'roc_auc',
      feedback: null,
      final: null,
    });
  });

  it('is a rounded feedback score and no final figure, grid, interval or marks, under “rounded”', () => {
    const open = disclose(twofold, 'rounded', false);
    expect(open.feedback).toEqual({ rows: 20, score: 1, rounded: true });
    expect(open.final).toBeNull();
    expect(JSON.stringify(open)).not.toMatch(/counts|residual|interval|marks/);
  });

  it('rounds so far that one answer more or less rarely shows', () => {
    const score = (value: number) => {
      const rows = { ...twofold, feedback: twofold.feedback && { ...twofold.feedback, score: { value } } };
      return disclose(rows, 'rounded', false).feedback?.score;
    };
    expect([score(0.7749), score(0.7751), score(123.4), score(0)]).toEqual([0.75, 0.8, 120, 0]);
  });

  it('is all but residuals of single rows once returned', () => {
    const returned = disclose(twofold, 'after-return', true);
    expect(returned.final).toMatchObject({ score: 0, marks: 0, outOf: 10 });
    expect(returned.feedback).toMatchObject({ score: 1, rounded: false });
    expect(JSON.stringify(returned)).not.toContain('residual');
  });
});
