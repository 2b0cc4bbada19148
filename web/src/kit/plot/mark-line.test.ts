import { describe, expect, it } from '@jest/globals';
import { metricNamed } from '@modest-sieve/core/metrics';
import { checkScheme, type MarkScheme } from '@modest-sieve/core/assessment';
import fc from 'fast-check';
import { movedPoint } from './mark-line.js';

const area: MarkScheme = { nothing: 0.5, most: 0.78, all: 0.84, mostMarks: 8, marks: 10 };
const error: MarkScheme = { nothing: 10, most: 6, all: 5, mostMarks: 8, marks: 10 };
const point = fc.constantFrom('nothing', 'most', 'all' as const);

describe('a point of the mark line', () => {
  it('moves to whole steps', () => {
    expect(movedPoint(area, 'most', 0.7043, 0.001, [0, 1]).most).toBe(0.704);
    expect(movedPoint(error, 'nothing', 12.34, 0.1, [0, null]).nothing).toBe(12.3);
  });

  it('stops before its neighbours and at the ends of what the metric can be', () => {
    expect(movedPoint(area, 'most', 0.99, 0.01, [0, 1]).most).toBe(0.83);
    expect(movedPoint(area, 'all', 4, 0.01, [0, 1]).all).toBe(1);
    expect(movedPoint(error, 'most', 1, 0.1, [0, null]).most).toBe(5.1);
  });

  it('leaves a line that can be saved, wherever it is dragged, in either direction of better', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(point, fc.double({ min: -3, max: 20, noNaN: true })), { maxLength: 12 }),
        (drags) => {
          const dragged = (scheme: MarkScheme, step: number, range: readonly [number, number | null]) =>
            drags.reduce((so, [name, score]) => movedPoint(so, name, score, step, range), scheme);
          expect(() => checkScheme(dragged(area, 0.001, [0, 1]), metricNamed('roc_auc'))).not.toThrow();
          expect(() => checkScheme(dragged(error, 0.01, [0, null]), metricNamed('rmse'))).not.toThrow();
        },
      ),
    );
  });
});
