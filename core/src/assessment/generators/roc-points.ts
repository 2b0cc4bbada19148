import { at } from '../../foundation/numbers.js';
import { askedOf, generator, figures, whole } from './generator.js';

const YOUDEN = 'largest Youden index';

export const rocPoints = generator({
  key: 'roc-points',
  title: 'points of an ROC curve',
  about:
    'Points from (0, 0) to (1, 1), each no lower and no further left than the one before. The area under the straight lines between them (trapezoids); the Youden index is the true-positive rate less the false-positive rate (Youden, Cancer 3, 1950).',
  text: 'The table gives the points of an ROC curve; straight lines lie between them.',
  from: 'chance',
  parameters: {
    points: { type: 'number', label: 'points between the ends', min: 1, max: 12, step: 1, start: 4 },
    asked: figures(
      ['area under the curve', YOUDEN, 'threshold of the largest Youden index'],
      ['area under the curve'],
    ),
  },
  sentence: () => 'Draw an ROC curve with {points} points between its ends, and ask for {asked}.',
  draw(values, random) {
    const upward = (low: number) => {
      const own = Array.from({ length: values.points }, () => whole(random, low, 98));
      return own.sort((a, b) => a - b).map((value) => value / 100);
    };
    const between = upward(2);
    // Above the diagonal: the better of two draws goes up.
    const rates = upward(30).map((rate, i) => Math.max(rate, at(between, i)));
    const fpr = [0, ...between, 1];
    const tpr = [0, ...rates, 1];
    const thresholds = fpr.map((_, i) => (fpr.length - 1 - i) / (fpr.length - 1));
    const index = fpr.map((rate, i) => at(tpr, i) - rate);
    const largest = Math.max(...index);
    const best =
      index.filter((one) => Math.abs(one - largest) < 1e-9).length === 1 ? index.indexOf(largest) : -1;
    return {
      given: { points: String(fpr.length) },
      table: {
        header: ['threshold', 'false-positive rate', 'true-positive rate'],
        rows: fpr.map((rate, i) => [at(thresholds, i).toFixed(2), rate.toFixed(2), at(tpr, i).toFixed(2)]),
      },
      asked: askedOf(
        {
          'area under the curve': trapezoids(fpr, tpr),
          [YOUDEN]: largest,
          'threshold of the largest Youden index':
            best < 0
              ? { value: null, reason: 'several points share it' }
              : Number(at(thresholds, best).toFixed(2)),
        },
        values.asked,
      ),
    };
  },
});

/** The area under straight lines between points in order of x. */
function trapezoids(x: readonly number[], y: readonly number[]): number {
  let area = 0;
  for (let i = 1; i < x.length; i++) area += ((at(x, i) - at(x, i - 1)) * (at(y, i) + at(y, i - 1))) / 2;
  return area;
}
