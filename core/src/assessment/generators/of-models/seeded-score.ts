import { normalHalfWidth } from '../../../foundation/statistics/distributions.js';
import { SieveError } from '../../../foundation/errors.js';
import type { Metric } from '../../../metrics/metric.js';
import type { FitRequest } from '../../../models/fitted.js';
import { quantile } from '../../../foundation/numbers.js';
import { partition } from '../../../splitting/splits/partition.js';
import { rowsOfPart } from '../../../splitting/parts/parts.js';
import { generator } from '../generator.js';
import { checkFitted, FEATURES, givenModel, modelParameter, requestFor } from './fitted-model.js';
import { METRIC, metricFor, scoreOn } from './judged-rows.js';

/** Share of honest work under other seeds that must be accepted, in percent. */
const FEWEST_ACCEPTED = 99.5;

export const seededScore = generator({
  key: 'seeded-score',
  title: 'a score of the student’s own seeded work',
  about:
    'Students split the training rows at random, fit a model and say its score: the figure differs from seed to seed. The same is done here over many seeds, and the central share of the scores is accepted, or what a normal distribution of their mean and deviation holds of it where that is more; the key is their median. At least 99.5 % of honest work is accepted.',
  text: 'Split the training rows at random and keep {share} % of them for testing. Fit {model} of **{target}** on {features} to the rest and give the {metric} on the test rows. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    share: { type: 'number', label: 'share of test rows', unit: '%', min: 5, max: 50, start: 20 },
    model: modelParameter('tree'),
    features: { ...FEATURES, optional: true },
    metric: METRIC,
    seeds: { type: 'number', label: 'seeds', min: 20, max: 500, step: 1, start: 100 },
    central: {
      type: 'number',
      label: 'share of the seeds that is accepted',
      unit: '%',
      min: FEWEST_ACCEPTED,
      max: 100,
      start: FEWEST_ACCEPTED,
    },
  },
  sentence: () =>
    'Keep {share} for testing, fit {model} on {features} and ask for {metric}; accept the central {central} of the scores over {seeds} seeds.',
  check: ({ model, features = [], metric }, columns, roles) => {
    checkFitted({ model, features }, columns, roles);
    metricFor(metric, roles.task);
  },
  // Questions of earlier versions name no features.
  compute({ share, model, features = [], metric: key, seeds, central }, { table, roles }) {
    const metric = metricFor(key, roles.task);
    const request = { ...requestFor(table, roles, { model, features }), group: roles.group };
    const scores = Float64Array.from({ length: seeds }, (_, seed) =>
      scoreOfSeed(request, share, metric, seed),
    ).sort();
    const accepted = Math.max(central, FEWEST_ACCEPTED) / 100;
    const tail = (1 - accepted) / 2;
    const mean = scores.reduce((a, b) => a + b, 0) / seeds;
    const sd = Math.sqrt(scores.reduce((sum, score) => sum + (score - mean) ** 2, 0) / (seeds - 1));
    // Of a hundred scores the ends of the central share are not known: a normal distribution helps out.
    const half = normalHalfWidth(Math.min(accepted, 0.9999)) * sd;
    const [low, high] = metric.range;
    const between: [number, number] = [
      Math.max(low ?? -Infinity, Math.min(quantile(scores, tail), mean - half)),
      Math.min(high ?? Infinity, Math.max(quantile(scores, 1 - tail), mean + half)),
    ];
    return {
      given: {
        ...givenModel(table, request, features),
        share: String(share),
        metric: metric.name,
      },
      table: null,
      asked: [
        {
          key: metric.key,
          name: metric.name,
          convention: null,
          figure: { value: quantile(scores, 0.5) },
          between,
        },
      ],
    };
  },
});

function scoreOfSeed(request: FitRequest, share: number, metric: Metric, seed: number): number {
  const { table } = request;
  const { parts } = partition(table, {
    method: 'random',
    parts: [
      { name: 'test', share: share / 100 },
      { name: 'training', rest: true },
    ],
    seed,
  });
  const figure = scoreOn({ ...request, rows: rowsOfPart(parts, 1), seed }, rowsOfPart(parts, 0), metric);
  if (figure.value === null)
    throw new SieveError('no-figure', `With seed ${seed} there is no such score: ${figure.reason}.`, {
      field: 'metric',
    });
  return figure.value;
}
