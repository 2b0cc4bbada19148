import { estimator, type RModel, type StarterCode, type StarterModel } from '../contract/starter-code.js';

const logit = () => estimator('linear_model', 'LogisticRegression', 'penalty=None, max_iter=10000');

const logitInR = ({ task }: StarterModel): RModel =>
  task === 'binary'
    ? {
        needs: '',
        fit: ['fit_model <- function(rows) glm(as_formula, rows, family = binomial)'],
        predict: [
          'predict_model <- function(model, rows) { p <- as.numeric(predict(model, rows, type = "response")); cbind(1 - p, p) }',
        ],
      }
    : {
        needs: 'nnet',
        fit: ['fit_model <- function(rows) multinom(as_formula, rows, trace = FALSE, maxit = 1000)'],
        predict: ['predict_model <- function(model, rows) predict(model, rows, type = "probs")'],
      };

const EQUATION = {
  isScaled: false,
  dummies: 'all but the first',
  isWeighted: true,
  isEquation: true,
} as const;

/** Of classes a logistic regression: neither library has a linear one that gives probabilities. */
export const linearStarter: StarterCode = {
  ...EQUATION,
  python: ({ task }) => (task === 'regression' ? estimator('linear_model', 'LinearRegression') : logit()),
  r: (model) =>
    model.task === 'regression'
      ? {
          needs: '',
          fit: ['fit_model <- function(rows) lm(as_formula, rows)'],
          predict: ['predict_model <- function(model, rows) as.numeric(predict(model, rows))'],
        }
      : logitInR(model),
};

export const logisticStarter: StarterCode = { ...EQUATION, python: logit, r: logitInR };
