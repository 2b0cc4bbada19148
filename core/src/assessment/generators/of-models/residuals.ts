import { SieveError } from '../../../foundation/errors.js';
import { at } from '../../../foundation/numbers.js';
import type { Figure } from '../../../metrics/metric.js';
import { autocorrelation, durbinWatson } from '../../../evaluation/diagnostics/autocorrelation.js';
import { breuschPagan } from '../../../evaluation/diagnostics/breusch-pagan.js';
import { varianceInflation } from '../../../evaluation/diagnostics/vif.js';
import { predictRows } from '../../../models/fitted.js';
import { targetRows } from '../../../models/prepared/target.js';
import { askedOf, figures, generator, type Asked } from '../generator.js';
import {
  checkFitted,
  designFor,
  FEATURES,
  fitTo,
  givenModel,
  modelParameter,
  requestFor,
} from './fitted-model.js';

const known = (value: number | null | undefined): Figure =>
  value === null || value === undefined ? { value: null, reason: 'it is not defined here' } : { value };

/** Lags that lie outside the band, of those up to the one that is asked for. */
function lagsOutside(values: readonly number[], band: number): Asked {
  const lags = values.map((_, lag) => lag).slice(1);
  return {
    key: 'lags_outside_the_band',
    name: 'lags outside the band',
    convention: 'band ±1.96 / √n',
    choices: lags.map(String),
    right: lags.filter((lag) => Math.abs(at(values, lag)) > band).map(String),
    several: true,
  };
}

export const residualFigures = generator({
  key: 'residual-figures',
  title: 'residuals of a regression',
  about:
    'What the residuals of a model of numbers say, truth less prediction on the training rows in the order of the file: Breusch–Pagan in Koenker’s form, Durbin–Watson, autocorrelations without adjustment and the band within which chance keeps 95 % of them.',
  text: 'Fit {model} of **{target}** on {features} to the training rows, and look at its residuals there, in the order of the file. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('linear'),
    features: FEATURES,
    lag: { type: 'number', label: 'lag', min: 1, max: 40, step: 1, start: 1 },
    asked: figures(
      [
        'Breusch–Pagan statistic',
        'Breusch–Pagan p',
        'Durbin–Watson statistic',
        'autocorrelation at the lag',
        'half the width of the band',
        'lags outside the band',
      ],
      ['Durbin–Watson statistic', 'autocorrelation at the lag'],
    ),
  },
  sentence: () => 'Fit {model} on {features}, and ask for {asked} of its residuals; up to lag {lag}.',
  check: (values, columns, roles) => {
    checkFitted(values, columns, roles);
    if (roles.task !== 'regression')
      throw new SieveError('no-figure', 'Residuals need a target of numbers.', { field: 'model' });
  },
  compute({ model, features, lag, asked }, { table, roles }) {
    const { fitted, request } = fitTo(table, roles, { model, features });
    const target = targetRows(request.target, request.rows);
    if (target.kind !== 'numbers')
      throw new SieveError('no-figure', 'Residuals need a target of numbers.', { field: 'model' });
    const predicted = at(predictRows(fitted, table, request.rows), 0);
    const residuals = target.values.map((value, row) => value - at(predicted, row));
    const spread = breuschPagan(designFor(request).columns, residuals);
    const along = autocorrelation(residuals, lag);
    return {
      given: { ...givenModel(table, request, features), lag: String(lag) },
      table: null,
      asked: [
        ...askedOf(
          {
            'Breusch–Pagan statistic': known(spread?.lm),
            'Breusch–Pagan p': known(spread?.p),
            'Durbin–Watson statistic': known(durbinWatson(residuals)),
            'autocorrelation at the lag': known(along?.values[lag]),
            'half the width of the band': known(along?.band),
          },
          asked,
        ),
        ...(along && asked.includes('lags outside the band') ? [lagsOutside(along.values, along.band)] : []),
      ],
    };
  },
});

export const inflation = generator({
  key: 'variance-inflation',
  title: 'variance inflation',
  about:
    'Variance inflation of a term: 1 / (1 − R²) of the term by all other terms and a constant (Belsley, Kuh and Welsch, 1980), and the term that has the largest.',
  text: 'Compute the variance inflation of the terms of a linear model of **{target}** on {features}, over the training rows. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    features: FEATURES,
    term: { type: 'text', label: 'term', start: '' },
    asked: figures(
      ['variance inflation of the term', 'term of the largest'],
      ['variance inflation of the term'],
    ),
  },
  sentence: () => 'Ask for {asked}, over the training rows, of {term} among {features}.',
  compute({ features, term, asked }, { table, roles }) {
    const request = requestFor(table, roles, {
      model: roles.task === 'multiclass' ? 'logistic' : 'linear',
      features,
    });
    const { terms, columns } = designFor(request);
    const all = varianceInflation(columns);
    const names = terms.map(({ name }) => name);
    const place = names.indexOf(term.trim());
    if (place < 0)
      throw new SieveError('no-figure', `There is no term “${term}”; there are ${names.join(', ')}.`, {
        field: 'term',
      });
    const largest = all.reduce(
      (best: number, value, i) => ((value ?? Infinity) > (all[best] ?? Infinity) ? i : best),
      0,
    );
    const value = all[place];
    return {
      given: { ...givenModel(table, request, features), term: term.trim() },
      table: null,
      asked: [
        ...askedOf(
          {
            'variance inflation of the term':
              value === null ? { value: null, reason: 'the others make the term up' } : known(value),
          },
          asked,
        ),
        ...(asked.includes('term of the largest')
          ? [
              {
                key: 'term_of_the_largest',
                name: 'term of the largest',
                convention: null,
                choices: names,
                right: [at(names, largest)],
                several: false,
              },
            ]
          : []),
      ],
    };
  },
});
