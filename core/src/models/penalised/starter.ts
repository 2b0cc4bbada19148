import {
  quoted,
  type PythonModel,
  type RModel,
  type StarterCode,
  type StarterModel,
} from '../contract/starter-code.js';

/** 1/(2n) RSS + λ(α‖b‖₁ + (1 − α)/2 ‖b‖₂²), on a target of deviation 1 where the penalty is counted so. */
function inPython({ values, task, target }: StarterModel, mixing: number): PythonModel {
  const penalty = Number(values['penalty']);
  if (task !== 'regression')
    return {
      imports: 'from sklearn.linear_model import LogisticRegression',
      make: [
        `    model = LogisticRegression(penalty="elasticnet", solver="saga", l1_ratio=${mixing}, C=1 / (${penalty} * len(rows)), max_iter=10000)`,
      ],
    };
  const byDeviation = values['units'] !== 'as-is';
  return {
    imports:
      'from sklearn.compose import TransformedTargetRegressor\nfrom sklearn.linear_model import ElasticNet, Ridge',
    make: [
      `    spread = ${byDeviation ? `rows[${quoted(target)}].std(ddof=0)` : '1.0'}`,
      mixing === 0
        ? `    plain = Ridge(alpha=${penalty} / spread * len(rows))`
        : `    plain = ElasticNet(alpha=${penalty} / spread, l1_ratio=${mixing}, max_iter=100000)`,
      byDeviation
        ? '    model = TransformedTargetRegressor(plain, transformer=StandardScaler())'
        : '    model = plain',
    ],
  };
}

function inR({ values, task }: StarterModel, mixing: number): RModel {
  const family = task === 'regression' ? 'gaussian' : 'binomial';
  const penalty = Number(values['penalty']);
  return {
    needs: 'glmnet',
    fit: [
      `fit_model <- function(rows) glmnet(as_matrix(rows), rows[[target]], family = "${family}", alpha = ${mixing})`,
    ],
    predict:
      task === 'regression'
        ? [
            `predict_model <- function(model, rows) as.numeric(predict(model, as_matrix(rows), s = ${penalty}))`,
          ]
        : [
            `predict_model <- function(model, rows) { p <- as.numeric(predict(model, as_matrix(rows), s = ${penalty}, type = "response")); cbind(1 - p, p) }`,
          ],
  };
}

/** @param mixing share of the absolute values in the penalty: 0 for ridge, 1 for lasso, null where a setting says it */
export function penalisedStarter(mixing: number | null): StarterCode {
  const mixingOf = ({ values }: StarterModel) => mixing ?? Number(values['mixing']);
  return {
    isScaled: true,
    dummies: 'all but the first',
    isWeighted: true,
    isEquation: false,
    python: (model) => inPython(model, mixingOf(model)),
    r: (model) => inR(model, mixingOf(model)),
  };
}
