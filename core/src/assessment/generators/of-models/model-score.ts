import { at } from '../../../foundation/numbers.js';
import { askedOf, figures, generator } from '../generator.js';
import { checkFitted, FEATURES, givenModel, modelParameter, requestFor } from './fitted-model.js';
import {
  bestPlace,
  foldWords,
  METRIC,
  metricFor,
  scoreOn,
  scoresOverFolds,
  spreadOf,
} from './judged-rows.js';

export const modelScore = generator({
  key: 'model-score',
  title: 'scores of a model',
  about:
    'A metric of a model on the rows that it is fitted to, and over folds that any program can make: by the place of a row in the file. Standard deviation with k − 1, standard error by √k; the gap is how much better the score is on the training rows.',
  text: 'Judge {model} of **{target}** on {features} by {metric} over {folds}. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('tree depth=3'),
    features: FEATURES,
    metric: METRIC,
    k: { type: 'number', label: 'folds', min: 2, max: 20, step: 1, start: 5 },
    asked: figures(
      [
        'score on the training rows',
        'mean over the folds',
        'standard deviation over the folds',
        'standard error over the folds',
        'best fold',
        'score of the best fold',
        'gap',
      ],
      ['score on the training rows', 'mean over the folds'],
    ),
  },
  sentence: () => 'Judge {model} on {features} by {metric} over {k} folds by place, and ask for {asked}.',
  check: (values, columns, roles) => {
    checkFitted(values, columns, roles);
    metricFor(values.metric, roles.task);
  },
  compute({ model, features, metric: key, k, asked }, { table, roles }) {
    const request = requestFor(table, roles, { model, features });
    const metric = metricFor(key, roles.task);
    const training = scoreOn(request, request.rows, metric);
    const scores = scoresOverFolds(request, k, metric);
    const { mean, sd, se } = spreadOf(scores);
    const best = bestPlace(scores, metric);
    return {
      given: {
        ...givenModel(table, request, features),
        metric: metric.name,
        folds: foldWords(k),
      },
      table: null,
      asked: askedOf(
        {
          'score on the training rows': training,
          'mean over the folds': mean,
          'standard deviation over the folds': sd,
          'standard error over the folds': se,
          'best fold': best + 1,
          'score of the best fold': at(scores, best),
          gap:
            training.value === null
              ? training
              : { value: metric.better === 'higher' ? training.value - mean : mean - training.value },
        },
        asked,
        { workings: { scores } },
      ),
    };
  },
});
