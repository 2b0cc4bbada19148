import { SieveError } from '../../../foundation/errors.js';
import { at } from '../../../foundation/numbers.js';
import { measureFold } from '../../../evaluation/trials/measure.js';
import { readyFor } from '../../../models/fitted.js';
import { modelFamilyOf } from '../../../models/registry.js';
import { figures, generator, keyOf, type AskedNumber } from '../generator.js';
import { checkFitted, FEATURES, givenModel, modelParameter, requestFor } from './fitted-model.js';
import { bestPlace, foldsByPlace, foldWords, METRIC, metricFor, spreadOf } from './judged-rows.js';

const BEST = 'best penalty';
const LARGEST = 'largest penalty within one standard error';

export const bestPenalty = generator({
  key: 'best-penalty',
  title: 'the best penalty of a regression',
  about:
    'Which penalty of a ridge regression, a lasso or an elastic net has the best mean over folds that any program can make, and which is the largest whose mean lies within one standard error of it (Breiman and others, 1984, 3.4.3). Programs try other penalties, so that a penalty is right whose logarithm lies within a stated distance of the one that is found here.',
  text: 'Find the penalty of {model} of **{target}** on {features} by {metric} over {folds}. A penalty is right within a factor of {factor}. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('lasso'),
    features: FEATURES,
    metric: METRIC,
    k: { type: 'number', label: 'folds', min: 2, max: 20, step: 1, start: 5 },
    distance: {
      type: 'number',
      label: 'distance of natural logarithms that is accepted',
      min: 0.05,
      max: 3,
      start: 0.5,
    },
    asked: figures([BEST, LARGEST], [BEST, LARGEST]),
  },
  sentence: () =>
    'Find the penalty of {model} on {features} by {metric} over {k} folds by place; accept logarithms within {distance}; ask for {asked}.',
  check: (values, columns, roles) => {
    checkFitted(values, columns, roles);
    metricFor(values.metric, roles.task);
  },
  compute({ model, features, metric: key, k, distance, asked }, { table, roles }) {
    const request = requestFor(table, roles, { model, features });
    const metric = metricFor(key, roles.task);
    const kind = modelFamilyOf(request.model);
    const path = kind.path?.(readyFor(request).training, request.model.values);
    if (!path || !('penalty' in kind.parameters))
      throw new SieveError(
        'plan-value',
        `${kind.title} has no path of penalties; take ridge, lasso or elastic-net.`,
        {
          field: 'model',
        },
      );
    const penalties = [...path].sort((a, b) => b - a);
    const measured = foldsByPlace(request.rows, k).map((fold) =>
      measureFold({
        ...request,
        ...fold,
        vary: [{ key: 'penalty', settings: penalties }],
        metrics: [metric],
      }),
    );
    const spreads = penalties.map((penalty, place) =>
      spreadOf(
        measured.map(({ figures: of }) => {
          const figure = at(of, place).test[metric.key];
          if (figure?.value == null)
            throw new SieveError(
              'no-figure',
              `${metric.name} is undefined in a fold at penalty ${penalty}.`,
              {
                field: 'metric',
              },
            );
          return figure.value;
        }),
      ),
    );
    const means = spreads.map(({ mean }) => mean);
    const best = bestPlace(means, metric);
    const { mean: top, se } = at(spreads, best);
    const within = means.findIndex((mean) =>
      metric.better === 'higher' ? mean >= top - se : mean <= top + se,
    );
    const factor = Math.exp(distance);
    const asks = (name: string, place: number): AskedNumber => {
      const value = at(penalties, place);
      return {
        ...{ key: keyOf(name), name, convention: null, figure: { value } },
        between: [value / factor, value * factor],
      };
    };
    return {
      given: {
        ...givenModel(table, request, features),
        metric: metric.name,
        folds: foldWords(k),
        factor: factor.toFixed(2),
      },
      table: null,
      asked: [asks(BEST, best), asks(LARGEST, within)].filter(({ name }) => asked.includes(name)),
    };
  },
});
