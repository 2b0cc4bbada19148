import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { axisOf, labelLevels, labelSides } from './axis.js';

const score = fc.double({ min: -1e6, max: 1e6, noNaN: true });

describe('an axis', () => {
  it('shows every point between its ends, and its ticks within them', () => {
    fc.assert(
      fc.property(fc.array(score, { minLength: 1, maxLength: 20 }), (points) => {
        const { domain, ticks } = axisOf(points, [null, null]);
        for (const point of points) {
          expect(point).toBeGreaterThanOrEqual(domain[0]);
          expect(point).toBeLessThanOrEqual(domain[1]);
        }
        expect(ticks.length).toBeGreaterThan(1);
        expect(ticks.length).toBeLessThan(14);
      }),
      { numRuns: 2000 },
    );
  });

  it.each([[[5e-324]], [[0]], [[1e6, 1e6 + 1e-10]], [[-0.3, -0.3]], [[1e-12, 3e-12]]])(
    'holds for %j',
    (points) => {
      const { domain, ticks } = axisOf(points, [null, null]);
      expect(domain[0]).toBeLessThanOrEqual(Math.min(...points));
      expect(domain[1]).toBeGreaterThanOrEqual(Math.max(...points));
      expect(new Set(ticks).size).toBe(ticks.length);
    },
  );

  it('does not go beyond what a metric can be', () => {
    expect(axisOf([0.5, 0.78, 1], [0, 1]).domain[1]).toBe(1);
    expect(axisOf([0, 0.1], [0, null]).domain[0]).toBe(0);
  });

  it('has round ticks', () => {
    expect(axisOf([0.5, 0.78, 0.84], [0, 1]).ticks).toEqual([0.4, 0.5, 0.6, 0.7, 0.8, 0.9]);
  });
});

describe('texts of lines', () => {
  it.each([
    [
      [0.395, 0.972, 0.986],
      ['middle', 'end', 'start'],
    ],
    [
      [0.2, 0.6, 0.9],
      ['middle', 'middle', 'middle'],
    ],
    // Where lower is better the order is the other way round.
    [
      [0.9, 0.52, 0.5],
      ['middle', 'start', 'end'],
    ],
  ])('of %j stand at %j', (scores, sides) => {
    expect(labelSides(scores, [0, 1])).toEqual(sides);
  });
});

describe('the heights of texts over lines', () => {
  it.each([
    [
      [0.1, 0.5, 0.9],
      [0, 0, 0],
    ],
    [
      [0.5, 0.55, 0.9],
      [0, 1, 0],
    ],
    // Of three that are near one another each has a height of its own, in any order.
    [
      [0.55, 0.5, 0.6],
      [1, 0, 2],
    ],
    // The first and the third are far enough apart to share one.
    [
      [0.4, 0.5, 0.6],
      [0, 1, 0],
    ],
  ])('of %j are %j', (scores, levels) => {
    expect(labelLevels(scores, [0, 1])).toEqual(levels);
  });
});
