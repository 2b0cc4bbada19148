import { SieveError } from '../../../foundation/errors.js';
import type { Figure } from '../../../metrics/metric.js';
import type { Plan } from '../../../data/sentence/sentence.js';
import { fitModel, type FitRequest } from '../../../models/fitted.js';
import { oddsRatiosOfOtherUnits } from '../../slips/values/odds-ratios.js';
import { askedOf, figures, generator } from '../generator.js';
import { checkFitted, FEATURES, fitTo, givenModel, modelParameter } from './fitted-model.js';

const known = (value: number | null | undefined, reason: string): Figure =>
  value === null || value === undefined || !Number.isFinite(value) ? { value: null, reason } : { value };

const NO_INFERENCE = 'this model has no standard errors';

/** A coefficient where the penalty is counted as other programs do, or exchanged with the mixture. */
function otherPenalties(request: FitRequest, term: string) {
  const { penalty, mixing } = request.model.values;
  if (typeof penalty !== 'number') return {};
  const n = request.rows.length;
  const under = (values: Plan['values']): number[] => {
    try {
      const { coefficients } = fitModel({ ...request, model: { ...request.model, values } }).description;
      return (coefficients ?? []).flatMap((one) =>
        one.term === term && one.estimate !== null ? [one.estimate] : [],
      );
    } catch (error) {
      // What cannot be fitted under the mistake has no figure by which it could be told; the key itself stands.
      if (error instanceof SieveError) return [];
      throw error;
    }
  };
  // Squared residuals summed, halved and summed, or an inverse of the penalty (scikit-learn: Ridge, LogisticRegression).
  const scales = [
    penalty / n,
    penalty / (2 * n),
    (2 * penalty) / n,
    ...(penalty > 0 ? [1 / (penalty * n)] : []),
  ];
  const values = request.model.values;
  return {
    'penalty-other-scale': { coefficient: scales.flatMap((other) => under({ ...values, penalty: other })) },
    ...(typeof mixing === 'number' && penalty <= 1
      ? {
          'penalty-mixing-exchanged': { coefficient: under({ ...values, penalty: mixing, mixing: penalty }) },
        }
      : {}),
  };
}

export const coefficient = generator({
  key: 'coefficient',
  title: 'a coefficient of a model',
  about:
    'A coefficient of a linear model that is fitted to the training rows, and its inference: t of a linear, z of a logistic regression, bounds of 95 %. The odds ratio for k units is e to the power of k times the coefficient. Coefficients are on the original scale of the columns; a penalty is in the units that the model’s own settings name.',
  text: 'Fit {model} of **{target}** on {features} to the training rows, and look at the coefficient of **{term}**. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('linear'),
    features: FEATURES,
    term: { type: 'text', label: 'term', start: '' },
    units: { type: 'number', label: 'units', start: 10 },
    asked: figures(
      [
        'coefficient',
        'standard error of the coefficient',
        'test statistic',
        'p',
        'lower bound',
        'upper bound',
        'odds ratio',
        'odds ratio for k units',
      ],
      ['coefficient', 'p'],
    ),
  },
  sentence: () =>
    'Fit {model} on {features} to the training rows, and ask for {asked} of {term}; k is {units}.',
  check: checkFitted,
  compute({ model, features, term, units, asked }, { table, roles }) {
    const { fitted, request } = fitTo(table, roles, { model, features });
    const all = fitted.description.coefficients ?? [];
    const found = all.find((one) => one.term === term.trim());
    if (!found)
      throw new SieveError(
        'no-figure',
        all.length === 0
          ? 'This model has no coefficients.'
          : `There is no term “${term}”; there are ${all.map((one) => one.term).join(', ')}.`,
        { field: 'term' },
      );
    if (found.label !== null)
      throw new SieveError(
        'no-figure',
        'A model of more than two classes has several coefficients of a term.',
        {
          field: 'model',
        },
      );
    const { estimate } = found;
    const isOfOdds = roles.task === 'binary' && fitted.state.form === 'logits';
    const odds = (k: number) =>
      isOfOdds && estimate !== null
        ? known(Math.exp(k * estimate), 'it is infinite')
        : ({ value: null, reason: 'this is no coefficient of log-odds' } as const);
    return {
      given: { ...givenModel(table, request, features), term: found.term, k: String(units) },
      table: null,
      asked: askedOf(
        {
          coefficient: known(estimate, 'it follows from other columns'),
          'standard error of the coefficient': known(found.se, NO_INFERENCE),
          'test statistic': known(found.statistic, NO_INFERENCE),
          p: known(found.p, NO_INFERENCE),
          'lower bound': known(found.low, NO_INFERENCE),
          'upper bound': known(found.high, NO_INFERENCE),
          'odds ratio': odds(1),
          'odds ratio for k units': odds(units),
        },
        asked,
        {
          workings: {
            mistaken: {
              ...(isOfOdds && estimate !== null
                ? oddsRatiosOfOtherUnits(estimate, units, ['odds ratio', 'odds ratio for k units'])
                : {}),
              ...otherPenalties(request, found.term),
            },
          },
        },
      ),
    };
  },
});

/** Which columns a penalty leaves in a model. */
export const nonzero = generator({
  key: 'nonzero-coefficients',
  title: 'columns that a penalty leaves',
  about:
    'How many coefficients of a model are not 0, the intercept not counted, and which columns have one. A column whose coefficient is so near 0 that programs may differ is refused.',
  text: 'Fit {model} of **{target}** on {features} to the training rows. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('lasso penalty=0.1'),
    features: FEATURES,
    asked: figures(
      ['coefficients that are not 0', 'columns that stay', 'columns that are dropped'],
      ['coefficients that are not 0', 'columns that stay'],
    ),
  },
  sentence: () => 'Fit {model} on {features} to the training rows, and ask for {asked}.',
  check: checkFitted,
  compute({ model, features, asked }, { table, roles }) {
    const { fitted, request } = fitTo(table, roles, { model, features });
    const own = (fitted.description.coefficients ?? []).slice(1);
    if (own.length === 0)
      throw new SieveError('no-figure', 'This model has no coefficients.', { field: 'model' });
    const isOf = (feature: string, term: string) =>
      term === feature || term.startsWith(`${feature} = `) || term.startsWith(`${feature}: `);
    const stays = request.features.filter((feature) =>
      own.some(({ term, estimate }) => isOf(feature, term) && estimate !== 0),
    );
    const names = (name: string, key: string, right: readonly string[]) =>
      asked.some((one) => one === name)
        ? [{ key, name, convention: null, choices: request.features, right, several: true }]
        : [];
    return {
      given: givenModel(table, request, features),
      table: null,
      asked: [
        ...askedOf(
          { 'coefficients that are not 0': own.filter(({ estimate }) => estimate !== 0).length },
          asked,
        ),
        ...names('columns that stay', 'columns_that_stay', stays),
        ...names(
          'columns that are dropped',
          'columns_that_are_dropped',
          request.features.filter((feature) => !stays.includes(feature)),
        ),
      ],
    };
  },
});
