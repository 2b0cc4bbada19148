import type { Figure } from '../../../metrics/metric.js';
import { askedOf, figures, generator } from '../generator.js';
import { checkFitted, FEATURES, fitTo, givenModel, modelParameter } from './fitted-model.js';

/** Figures of a fit by what they are called. */
const FIGURES = {
  'R² of the fit': 'r2',
  'adjusted R²': 'adjusted_r2',
  F: 'f',
  'p of F': 'f_p',
  'residual standard error': 'sigma',
  'log-likelihood': 'log_likelihood',
  deviance: 'deviance',
  AIC: 'aic',
  BIC: 'bic',
} as const;
type Name = keyof typeof FIGURES;

export const fitFigures = generator({
  key: 'fit-figures',
  title: 'figures of a fitted regression',
  about:
    'Figures of a linear or logistic regression that is fitted to the training rows. AIC and BIC count the coefficients, not the error variance, as statsmodels does.',
  text: 'Fit {model} of **{target}** on {features} to the training rows. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('linear'),
    features: FEATURES,
    asked: figures(Object.keys(FIGURES) as Name[], ['R² of the fit', 'adjusted R²']),
  },
  sentence: () => 'Fit {model} on {features} to the training rows, and ask for {asked}.',
  check: checkFitted,
  compute({ model, features, asked }, { table, roles }) {
    const { fitted, request } = fitTo(table, roles, { model, features });
    const own = fitted.description.figures ?? {};
    const figureOf = (key: string): Figure => {
      const value = own[key];
      return value === undefined ? { value: null, reason: 'this model has no such figure' } : { value };
    };
    return {
      given: givenModel(table, request, features),
      table: null,
      asked: askedOf(
        Object.fromEntries(Object.entries(FIGURES).map(([name, key]) => [name, figureOf(key)])),
        asked,
      ),
    };
  },
});
