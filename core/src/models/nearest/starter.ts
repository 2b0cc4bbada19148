import { estimator, quoted, type StarterCode } from '../contract/starter-code.js';

export const nearestStarter: StarterCode = {
  isScaled: true,
  dummies: 'all',
  isWeighted: false,
  isEquation: false,
  python: ({ values, task }) =>
    estimator(
      'neighbors',
      task === 'regression' ? 'KNeighborsRegressor' : 'KNeighborsClassifier',
      `n_neighbors=${Number(values['neighbours'])}, weights=${quoted(String(values['weights']))}`,
    ),
  r: ({ values, task }) => ({
    needs: '',
    fit: ['fit_model <- function(rows) list(x = scale(as_matrix(rows)), y = rows[[target]])'],
    predict: [
      'predict_model <- function(model, rows) {',
      '  x <- scale(as_matrix(rows), attr(model$x, "scaled:center"), attr(model$x, "scaled:scale"))',
      '  t(apply(x, 1, function(row) {',
      `    near <- order(colSums((t(model$x) - row)^2))[seq_len(min(${Number(values['neighbours'])}, nrow(model$x)))]`,
      task === 'regression' ? '    mean(model$y[near])' : '    as.numeric(prop.table(table(model$y[near])))',
      task === 'regression' ? '  }))[1, ]' : '  }))',
      '}',
    ],
  }),
};
