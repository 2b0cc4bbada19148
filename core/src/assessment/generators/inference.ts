import { oddsRatiosOfOtherUnits } from '../slips/values/odds-ratios.js';
import { decimal, generator, askedOf, figures, whole } from './generator.js';

export const inference = generator({
  key: 'inference',
  title: 'figures of a regression',
  about:
    'An odds ratio is e to the coefficient (e^0.211 = 1.235), for another unit e to the coefficient times the unit; variance inflation is 1 / (1 − R²) of a feature on the others (below 5 fine, above 10 serious: common practice); R² is 1 less the residual over the total sum of squares; F near 1 when nothing is explained.',
  text: 'In a logistic regression a feature has the coefficient {coefficient}; an odds ratio for more units is for {unit} of them. In a linear regression of {n} rows on {p} features the total sum of squares is {total} and the residual one {residual}. Regressed on the other features, one of them has an R² of {r2}.',
  from: 'chance',
  parameters: {
    unit: { type: 'number', label: 'units', min: 0.01, max: 1000, start: 10 },
    asked: figures(
      [
        'odds ratio',
        'odds ratio for more units',
        'variance inflation',
        'R²',
        'adjusted R²',
        'F',
        'residual standard error',
      ],
      ['odds ratio', 'variance inflation', 'R²'],
    ),
  },
  sentence: () => 'Draw figures of a regression, with an odds ratio for {unit} units, and ask for {asked}.',
  draw({ unit, asked }, random) {
    const sign = random.below(2) ? 1 : -1;
    const coefficient = sign * decimal(random, 0.02, 0.9 / Math.max(1, unit / 10), 3);
    const n = whole(random, 30, 200);
    const p = whole(random, 2, 6);
    const total = decimal(random, 400, 2000, 1);
    const residual = Number((total * decimal(random, 0.2, 0.85, 3)).toFixed(1));
    const r2 = decimal(random, 0.3, 0.95, 2);
    const fit = 1 - residual / total;
    return {
      given: {
        coefficient: String(coefficient),
        unit: String(unit),
        n: String(n),
        p: String(p),
        total: String(total),
        residual: String(residual),
        r2: r2.toFixed(2),
      },
      table: null,
      asked: askedOf(
        {
          'odds ratio': Math.exp(coefficient),
          'odds ratio for more units': Math.exp(coefficient * unit),
          'variance inflation': 1 / (1 - r2),
          'R²': fit,
          'adjusted R²': 1 - ((1 - fit) * (n - 1)) / (n - p - 1),
          F: (total - residual) / p / (residual / (n - p - 1)),
          'residual standard error': Math.sqrt(residual / (n - p - 1)),
        },
        asked,
        {
          workings: {
            mistaken: {
              ...oddsRatiosOfOtherUnits(coefficient, unit, ['odds ratio', 'odds ratio for more units']),
              'correlation-for-r2': { 'R²': [Math.sqrt(fit)] },
              'divided-by-n-minus-1': { 'residual standard error': [Math.sqrt(residual / (n - 1))] },
              'divided-by-n-minus-p': {
                'residual standard error': [Math.sqrt(residual / (n - p))],
                'adjusted R²': [1 - ((1 - fit) * (n - 1)) / (n - p)],
              },
            },
          },
        },
      ),
    };
  },
});
