import { at } from '../../../foundation/numbers.js';
import { changed, valueSlip, type ValueSlip } from './value-slip.js';

const VIF = ['variance inflation', 'variance inflation of the term'];
const QUARTILES: Readonly<Record<string, readonly number[]>> = {
  'lower quartile': [0.25],
  'upper quartile': [0.75],
  'interquartile range': [0.25, 0.75],
};

/**
 * Quantiles by the other usual definitions (Hyndman and Fan, The American Statistician 50, 1996: types 1, 2, 5, 6 and 8).
 *
 * @param sorted ascending
 */
function otherQuantiles(sorted: Float64Array, p: number): number[] {
  const n = sorted.length;
  const between = (h: number): number => {
    const low = Math.floor(h);
    const value = (i: number) => at(sorted, Math.min(n, Math.max(1, i)) - 1);
    return value(low) + (h - low) * (value(low + 1) - value(low));
  };
  const step = Math.ceil(n * p - 1e-9);
  const value = (i: number) => at(sorted, Math.min(n, Math.max(1, i)) - 1);
  const even = Math.abs(n * p - Math.round(n * p)) < 1e-9;
  return [
    value(step),
    even ? (value(step) + value(step + 1)) / 2 : value(step),
    between(n * p + 0.5),
    between((n + 1) * p),
    between((n + 1 / 3) * p + 1 / 3),
  ];
}

/** What only the kind of figures itself can work out. */
const workedOut =
  (id: string): ValueSlip['answers'] =>
  (asked, { mistaken }) =>
    mistaken?.[id]?.[asked] ?? [];

export const INFERENCE_SLIPS: readonly ValueSlip[] = [
  changed(
    {
      id: 'log-odds-for-odds-ratio',
      title: 'log-odds for the odds ratio',
      says: 'You gave the coefficient itself, which is a difference of log-odds.',
      remedy: 'An odds ratio is e to the power of the coefficient. A coefficient of 0 is an odds ratio of 1.',
      example: 'The coefficient 0.211 is an odds ratio of 1.235.',
    },
    (asked) =>
      asked === 'odds ratio' || asked === 'odds ratio for more units' || asked === 'odds ratio for k units',
    (right) => [Math.log(right)],
  ),
  valueSlip(
    {
      id: 'odds-ratio-other-unit',
      title: 'odds ratio for another unit',
      says: 'Your odds ratio is for another number of units.',
      remedy:
        'Multiply the coefficient by the units before you take e to its power. Odds ratios of units multiply.',
      example: 'The coefficient 0.03 gives 1.030 for one unit and 1.350 for ten; ten times 1.030 is neither.',
    },
    workedOut('odds-ratio-other-unit'),
  ),
  changed(
    {
      id: 'tolerance-for-vif',
      title: 'tolerance for variance inflation',
      says: 'You gave 1 − R² of the column on the others, its tolerance.',
      remedy: 'Variance inflation is 1 over the tolerance. It is 1 at least.',
      example: 'An R² of 0.8 has the tolerance 0.2 and the variance inflation 5.',
    },
    (asked) => VIF.includes(asked),
    (right) => [1 / right],
  ),
  changed(
    {
      id: 'r2-for-vif',
      title: 'R² for variance inflation',
      says: 'You gave the R² of the column on the others.',
      remedy: 'Variance inflation is 1 / (1 − R²). It is 1 at least.',
      example: 'An R² of 0.8 has the variance inflation 5.',
    },
    (asked) => VIF.includes(asked),
    (right) => [1 - 1 / right],
  ),
  changed(
    {
      id: 'one-sided-p',
      title: 'one-sided p',
      says: 'You gave the chance of one side alone.',
      remedy:
        'A two-sided test counts both tails. Double the smaller one, where the distribution is symmetric.',
      example: 'A z of 1.96 has 0.025 above it; the two-sided p is 0.05.',
    },
    (asked) => asked === 'p' || asked === 'McNemar p',
    (right) => [right / 2],
  ),
  valueSlip(
    {
      id: 'quantile-other-type',
      title: 'quantile of another type',
      says: 'Your quartile is that of another definition.',
      remedy:
        'The question asks for linear interpolation of the sorted values, type 7. It is what most libraries do unless told otherwise.',
      example: 'Of 1, 2, 3, 4 the lower quartile is 1.75 by type 7, 1.5 as a median of the lower half.',
    },
    (asked, { list }) => {
      const at7 = QUARTILES[asked];
      if (!at7 || !list) return [];
      const sorted = list.slice().sort();
      const [first = [], second] = at7.map((p) => otherQuantiles(sorted, p));
      return second ? second.map((upper, type) => upper - at(first, type)) : first;
    },
  ),
  valueSlip(
    {
      id: 'penalty-mixing-exchanged',
      title: 'penalty and mixing exchanged',
      says: 'You exchanged the strength of the penalty and its mixture.',
      remedy:
        'One setting says how strong the penalty is, the other how much of it is of absolute values. Programs name them differently; look at both before you fit.',
      example:
        'Penalty 0.5 with mixing 0.1 shrinks most columns a little; penalty 0.1 with mixing 0.5 is another model.',
    },
    workedOut('penalty-mixing-exchanged'),
  ),
  valueSlip(
    {
      id: 'penalty-other-scale',
      title: 'penalty on another scale',
      says: 'Your penalty is counted as another program counts it.',
      remedy:
        'Here the penalty goes with the squared residuals over 2n. Where a program takes their sum, multiply by the number of rows; where it takes an inverse, turn it over.',
      example: 'With 400 rows the penalty 0.05 here is 20 where squared residuals are halved and summed.',
    },
    workedOut('penalty-other-scale'),
  ),
  valueSlip(
    {
      id: 'gini-for-entropy',
      title: 'Gini for entropy',
      says: 'You computed with Gini impurity, where entropy is asked.',
      remedy: 'Entropy is −Σ p log₂ p, Gini 1 − Σ p². Both are 0 for a pure node.',
      example: 'Shares of 0.5 and 0.5 have the entropy 1 and the Gini 0.5.',
    },
    workedOut('gini-for-entropy'),
  ),
  valueSlip(
    {
      id: 'no-laplace',
      title: 'no Laplace correction',
      says: 'You left the Laplace correction out.',
      remedy:
        'Add the correction to each count, and as many times to the rows as there are values. A value that never occurred then has a chance above 0.',
      example: '3 of 10 with a correction of 1 and two values is 4 / 12.',
    },
    workedOut('no-laplace'),
  ),
  valueSlip(
    {
      id: 'prior-left-out',
      title: 'prior left out',
      says: 'You multiplied the likelihoods alone, without the shares of the classes.',
      remedy:
        'A posterior is prior times likelihood, over the sum of that for all classes. Begin with the shares.',
      example: 'Likelihoods of 0.2 and 0.1 with priors of 0.25 and 0.75 give 0.4, and not 0.667.',
    },
    workedOut('prior-left-out'),
  ),
];
