import { estimator, type RModel, type StarterCode, type StarterModel } from '../contract/starter-code.js';

/** A model that says the same of every row. */
const constant = ({ task }: StarterModel, value: string): RModel => ({
  needs: '',
  fit: [`fit_model <- function(rows) ${value}`],
  predict: [
    task === 'regression'
      ? 'predict_model <- function(model, rows) rep(model, nrow(rows))'
      : 'predict_model <- function(model, rows) matrix(model, nrow(rows), length(labels), byrow = TRUE)',
  ],
});

const baseline = (dummy: 'Classifier' | 'Regressor', strategy: string, value: string): StarterCode => ({
  isScaled: false,
  dummies: 'all but the first',
  isWeighted: true,
  isEquation: false,
  python: () => estimator('dummy', `Dummy${dummy}`, `strategy="${strategy}"`),
  r: (model) => constant(model, value),
});

export const mostFrequentStarter = baseline(
  'Classifier',
  'most_frequent',
  'as.numeric(seq_along(labels) == which.max(table(rows[[target]])))',
);
export const classSharesStarter = baseline(
  'Classifier',
  'prior',
  'as.numeric(prop.table(table(rows[[target]])))',
);
export const meanStarter = baseline('Regressor', 'mean', 'mean(rows[[target]])');
export const medianStarter = baseline('Regressor', 'median', 'median(rows[[target]])');
