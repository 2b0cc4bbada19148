import { estimator, numbersIn, quoted, type StarterCode } from '../contract/starter-code.js';

export const networkStarter: StarterCode = {
  isScaled: true,
  dummies: 'all but the first',
  isWeighted: false,
  isEquation: false,
  python: (model) => {
    const { values, task, seed } = model;
    const number = numbersIn(model);
    const layers = String(values['layers'])
      .split(',')
      .map((part) => part.trim())
      .join(', ');
    const solver = values['optimiser'] === 'adam' ? 'solver="adam"' : 'solver="sgd", momentum=0';
    const stopping =
      number('patience') > 0
        ? `early_stopping=True, n_iter_no_change=${number('patience')}, validation_fraction=${number('validation') / 100}`
        : `n_iter_no_change=${number('epochs')}, tol=0`;
    const options = `hidden_layer_sizes=(${layers},), activation=${quoted(String(values['activation']))}, ${solver}, learning_rate_init=${number('learning_rate')}, max_iter=${number('epochs')}, batch_size=${number('batch') > 0 ? `min(len(rows), ${number('batch')})` : 'len(rows)'}, alpha=${number('decay')}, ${stopping}, random_state=${seed}`;
    if (task !== 'regression') return estimator('neural_network', 'MLPClassifier', options);
    return {
      imports:
        'from sklearn.compose import TransformedTargetRegressor\nfrom sklearn.neural_network import MLPRegressor\nfrom sklearn.preprocessing import StandardScaler',
      make: [
        `    model = TransformedTargetRegressor(MLPRegressor(${options}), transformer=StandardScaler())`,
      ],
    };
  },
  r: (model) => {
    const { values, task, seed } = model;
    const number = numbersIn(model);
    const [units = '10'] = String(values['layers']).split(',');
    return {
      needs: 'nnet',
      fit: [
        `# nnet has one hidden layer, and trains all rows at once.`,
        'fit_model <- function(rows) {',
        `  set.seed(${seed})`,
        '  x <- scale(as_matrix(rows))',
        '  centre <- attr(x, "scaled:center"); spread <- attr(x, "scaled:scale")',
        task === 'regression'
          ? '  y <- as.numeric(scale(rows[[target]]))'
          : '  y <- class.ind(factor(rows[[target]]))',
        `  net <- nnet(x, y, size = ${units.trim()}, decay = ${number('decay')}, maxit = ${number('epochs')}, ${task === 'regression' ? 'linout = TRUE' : 'softmax = TRUE'}, trace = FALSE, MaxNWts = 1e6)`,
        task === 'regression'
          ? '  list(net = net, centre = centre, spread = spread, mean = mean(rows[[target]]), sd = sd(rows[[target]]))'
          : '  list(net = net, centre = centre, spread = spread)',
        '}',
      ],
      predict: [
        'predict_model <- function(model, rows) {',
        '  said <- predict(model$net, scale(as_matrix(rows), model$centre, model$spread))',
        task === 'regression' ? '  model$mean + model$sd * said[, 1]' : '  said',
        '}',
      ],
    };
  },
};
