import { estimator, numbersIn, type StarterCode } from '../contract/starter-code.js';

const NEVER = 0;

export const forestStarter: StarterCode = {
  isScaled: false,
  dummies: 'all',
  isWeighted: true,
  isEquation: false,
  python: (model) => {
    const { values, task, seed } = model;
    const number = numbersIn(model);
    const isDrawn = values['rows'] !== 'all';
    const trees = values['thresholds'] === 'random' ? 'ExtraTrees' : 'RandomForest';
    const columns =
      number('features_per_split') === NEVER
        ? task === 'regression'
          ? '1.0'
          : '"sqrt"'
        : String(number('features_per_split'));
    return estimator(
      'ensemble',
      `${trees}${task === 'regression' ? 'Regressor' : 'Classifier'}`,
      `${number('trees')}, max_features=${columns}, min_samples_leaf=${number('rows_per_leaf')}, max_depth=${number('depth')}, bootstrap=${isDrawn ? `True, max_samples=${number('share') / 100}, oob_score=True` : 'False'}, random_state=${seed}`,
    );
  },
  r: (model) => {
    const { values, task, seed } = model;
    const number = numbersIn(model);
    const columns =
      number('features_per_split') === NEVER
        ? task === 'regression'
          ? 'ncol(as_matrix(rows))'
          : 'max(1, floor(sqrt(ncol(as_matrix(rows)))))'
        : `min(ncol(as_matrix(rows)), ${number('features_per_split')})`;
    const isDrawn = values['rows'] !== 'all';
    return {
      needs: 'randomForest',
      fit: [
        'fit_model <- function(rows) {',
        `  set.seed(${seed})`,
        `  randomForest(as_matrix(rows), ${task === 'regression' ? 'rows[[target]]' : 'factor(rows[[target]])'}, ntree = ${number('trees')}, mtry = ${columns},`,
        `    nodesize = ${number('rows_per_leaf')}, replace = ${isDrawn ? 'TRUE' : 'FALSE'}, sampsize = max(1, round(nrow(rows) * ${isDrawn ? number('share') / 100 : 1})))`,
        '}',
      ],
      predict: [
        `predict_model <- function(model, rows) predict(model, as_matrix(rows)${task === 'regression' ? '' : ', type = "prob"'})`,
      ],
    };
  },
};
