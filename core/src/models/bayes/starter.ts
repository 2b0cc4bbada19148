import {
  estimator,
  type PythonModel,
  type StarterCode,
  type StarterModel,
} from '../contract/starter-code.js';

/** scikit-learn has no naive Bayes of kernels or of mixed columns: the one of normal densities is the nearest. */
function inPython({ values }: StarterModel): PythonModel {
  const laplace = `alpha=${Number(values['laplace'])}`;
  if (values['kind'] === 'bernoulli') return estimator('naive_bayes', 'BernoulliNB', laplace);
  if (values['kind'] === 'multinomial') return estimator('naive_bayes', 'MultinomialNB', laplace);
  return estimator('naive_bayes', 'GaussianNB');
}

export const naiveBayesStarter: StarterCode = {
  isScaled: false,
  dummies: 'all but the first',
  isWeighted: true,
  isEquation: false,
  python: inPython,
  r: ({ values }) => ({
    needs: 'e1071',
    fit: [
      `fit_model <- function(rows) naiveBayes(rows[c(numbers, categories)], rows[[target]], laplace = ${Number(values['laplace'])})`,
    ],
    predict: ['predict_model <- function(model, rows) predict(model, rows, type = "raw")'],
  }),
};
