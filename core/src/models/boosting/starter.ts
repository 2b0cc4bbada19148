import { estimator, numbersIn, quoted, type StarterCode } from '../contract/starter-code.js';

export const boostingStarter: StarterCode = {
  isScaled: false,
  dummies: 'all',
  isWeighted: true,
  isEquation: false,
  python: (model) => {
    const { values, task, seed } = model;
    const number = numbersIn(model);
    const isQuantile = values['loss'] === 'quantile';
    const loss =
      task === 'regression' && isQuantile ? `loss="quantile", quantile=${number('level') / 100}, ` : '';
    const stopping =
      number('patience') > 0
        ? `early_stopping=True, n_iter_no_change=${number('patience')}, validation_fraction=${number('validation') / 100}`
        : 'early_stopping=False';
    return estimator(
      'ensemble',
      `HistGradientBoosting${task === 'regression' ? 'Regressor' : 'Classifier'}`,
      `${loss}max_iter=${number('rounds')}, learning_rate=${number('learning_rate')}, max_leaf_nodes=${number('leaves')}, min_samples_leaf=${number('rows_per_leaf')}, l2_regularization=${number('penalty')}, max_bins=${number('bins')}, ${stopping}, random_state=${seed}`,
    );
  },
  r: (model) => {
    const { values, task, seed } = model;
    const number = numbersIn(model);
    const isQuantile = task === 'regression' && values['loss'] === 'quantile';
    const distribution = {
      regression: isQuantile
        ? `list(name = ${quoted('quantile')}, alpha = ${number('level') / 100})`
        : quoted('gaussian'),
      binary: quoted('bernoulli'),
      multiclass: quoted('multinomial'),
    }[task];
    return {
      needs: 'gbm',
      fit: [
        'fit_model <- function(rows) {',
        `  set.seed(${seed})`,
        '  x <- as.data.frame(as_matrix(rows))',
        task === 'binary' ? '  y <- as.numeric(factor(rows[[target]])) - 1' : '  y <- rows[[target]]',
        `  gbm.fit(x, y, distribution = ${distribution}, n.trees = ${number('rounds')}, shrinkage = ${number('learning_rate')},`,
        `    interaction.depth = ${Math.min(49, number('leaves') - 1)}, n.minobsinnode = ${number('rows_per_leaf')}, bag.fraction = 1, verbose = FALSE)`,
        '}',
      ],
      predict: [
        'predict_model <- function(model, rows) {',
        `  said <- predict(model, as.data.frame(as_matrix(rows)), n.trees = ${number('rounds')}, type = "response")`,
        {
          regression: '  said',
          binary: '  cbind(1 - said, said)',
          multiclass: '  said[, , 1]',
        }[task],
        '}',
      ],
    };
  },
};
