import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { area } from '../../../test/marked.js';
import { metricNamed } from '../../metrics/registry.js';
import { markingMetrics } from './metrics.js';
import { TASKS } from '../../data/table/roles.js';
import { checkScheme, firstScheme, marksFor, schemeFrom, type MarkScheme } from './scheme.js';

const error: MarkScheme = { nothing: 10, most: 6, all: 5, mostMarks: 8, marks: 10 };

describe('points between a baseline and a model', () => {
  it('can be used for every metric, give nothing at the baseline and most at the model, nearly', () => {
    const metrics = TASKS.flatMap(markingMetrics);
    const share = fc.double({ min: 0.001, max: 0.999, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...metrics), share, share, (metric, a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        const [baseline, best] = metric.better === 'higher' ? [low, high] : [high, low];
        const scheme = schemeFrom(metric, baseline, best);
        if (scheme === null) {
          expect(high - low).toBeLessThan(3e-4);
          return;
        }
        expect(() => checkScheme(scheme, metric)).not.toThrow();
        const gap = high - low;
        expect(Math.abs(scheme.nothing - baseline)).toBeLessThan(gap / 2);
        expect(Math.abs(scheme.most - best)).toBeLessThan(gap / 2);
      }),
      { numRuns: 2000 },
    );
  });

  it('of accuracies 0.7 and 0.8 give all from 0.85, of 0.7 and 0.96 halfway to a perfect score', () => {
    const of = (baseline: number, best: number) => schemeFrom(metricNamed('accuracy'), baseline, best)?.all;
    expect([of(0.7, 0.8), of(0.7, 0.96)]).toEqual([0.85, 0.98]);
    expect([of(0.8, 0.7), of(0.7, 0.7), of(0.7, 1)]).toEqual([undefined, undefined, undefined]);
    expect(schemeFrom(metricNamed('rmse'), 5, 3)).toMatchObject({ nothing: 5, most: 3, all: 2 });
  });
});

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
