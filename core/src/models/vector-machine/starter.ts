import { estimator, numbersIn, quoted, type StarterCode } from '../contract/starter-code.js';

export const machineStarter: StarterCode = {
  isScaled: true,
  dummies: 'all but the first',
  isWeighted: true,
  isEquation: false,
  python: (model) => {
    const { values, task } = model;
    const number = numbersIn(model);
    const kernel = { linear: 'linear', polynomial: 'poly', radial: 'rbf' }[String(values['kernel'])] ?? 'rbf';
    const gamma = number('width') > 0 ? String(1 / (2 * number('width') ** 2)) : '"auto"';
    const options = `kernel=${quoted(kernel)}, C=${number('cost')}, gamma=${gamma}, degree=${number('degree')}, coef0=${number('constant')}`;
    if (task !== 'regression') return estimator('svm', 'SVC', `${options}, probability=True, random_state=0`);
    return {
      imports:
        'from sklearn.compose import TransformedTargetRegressor\nfrom sklearn.preprocessing import StandardScaler\nfrom sklearn.svm import SVR',
      make: [
        `    model = TransformedTargetRegressor(SVR(${options}, epsilon=${number('tube')}), transformer=StandardScaler())`,
      ],
    };
  },
  r: (model) => {
    const { values, task } = model;
    const number = numbersIn(model);
    const gamma = number('width') > 0 ? String(1 / (2 * number('width') ** 2)) : '1 / ncol(as_matrix(rows))';
    return {
      needs: 'e1071',
      fit: [
        'fit_model <- function(rows) {',
        `  y <- ${task === 'regression' ? 'rows[[target]]' : 'factor(rows[[target]])'}`,
        `  svm(as_matrix(rows), y, kernel = ${quoted(String(values['kernel']))}, cost = ${number('cost')}, gamma = ${gamma},`,
        `    degree = ${number('degree')}, coef0 = ${number('constant')}, epsilon = ${number('tube')}, probability = ${task === 'regression' ? 'FALSE' : 'TRUE'})`,
        '}',
      ],
      predict:
        task === 'regression'
          ? ['predict_model <- function(model, rows) predict(model, as_matrix(rows))']
          : [
              'predict_model <- function(model, rows) {',
              '  said <- attr(predict(model, as_matrix(rows), probability = TRUE), "probabilities")',
              '  said[, sort(colnames(said)), drop = FALSE]',
              '}',
            ],
    };
  },
};
