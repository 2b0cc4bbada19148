import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { answer, marked, predicted, twofold } from '../../../test/marked.js';
import { metricNamed } from '../../metrics/registry.js';
import { lineFor } from './doubt.js';
import { marksFor, type MarkScheme } from './scheme.js';
import { standardErrors } from './standard-errors.js';

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
