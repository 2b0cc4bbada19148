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

/** Means this close are one to other programs, whose folds are fitted with other stopping rules and other grids. Standard errors of the best mean. */
const AS_GOOD = 0.05;
/** A path is tried further down, where the best penalty of a ridge often lies: neighbours in logarithms, and the number of them. */
const DOWN = 0.5;
const MORE = 20;

export const bestPenalty = generator({
  key: 'best-penalty',
  title: 'the best penalty of a regression',
  about:
    'Which penalty of a ridge regression, a lasso or an elastic net has the best mean over folds that any program can make, and which is the largest whose mean lies within one standard error of it (Breiman and others, 1984, 3.4.3). Programs try other penalties. For the best, every penalty is right whose mean is the best but for 0.05 of its standard error, and whatever lies within a stated distance of these in logarithms; for the largest, what lies within that distance of the one that is found here. The text says how close together penalties have to be tried.',
  text: 'Find the penalty of {model} of **{target}** on {features} by {metric} over {folds}. Try penalties that are at most a factor of {factor} apart; where the best is the smallest that you tried, try smaller ones. A penalty is right within that factor. {notes}',
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
    const smallest = Math.min(...path);
    const penalties = [
      ...[...path].sort((a, b) => b - a),
      ...Array.from({ length: MORE }, (_, i) => smallest * Math.exp(-DOWN * (i + 1))),
    ];
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
    /** Places of the penalties whose mean is at most so many standard errors from the best. */
    const near = (errors: number) =>
      means.flatMap((mean, place) => (Math.abs(mean - top) <= errors * se ? [place] : []));
    const factor = Math.exp(distance);
    const asks = (name: string, place: number, largest: number, least: number): AskedNumber => ({
      ...{ key: keyOf(name), name, convention: null, figure: { value: at(penalties, place) } },
      between: [
        // Where even the smallest that was tried is as good, so is none.
        least === penalties.length - 1 ? 0 : at(penalties, least) / factor,
        // Above the largest nothing is left that a penalty could shrink.
        largest === 0 ? Number.MAX_VALUE : at(penalties, largest) * factor,
      ],
    });
    const asGood = near(AS_GOOD);
    if (asked.includes(BEST) && asGood.length === penalties.length)
      throw new SieveError(
        'no-figure',
        'Every penalty has nearly the same mean here, so that every answer would be right. Take other features or another metric.',
        { field: 'features' },
      );
    const within = at(near(1), 0);
    return {
      given: {
        ...givenModel(table, request, features),
        metric: metric.name,
        folds: foldWords(k),
        factor: factor.toFixed(2),
      },
      table: null,
      asked: [
        asks(BEST, best, at(asGood, 0), at(asGood, asGood.length - 1)),
        asks(LARGEST, within, at(near(1 + AS_GOOD), 0), at(near(1 - AS_GOOD), 0)),
      ].filter(({ name }) => asked.includes(name)),
    };
  },
});
