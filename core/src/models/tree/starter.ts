import { estimator, numbersIn, type StarterCode } from '../contract/starter-code.js';

export const treeStarter: StarterCode = {
  isScaled: false,
  dummies: 'all',
  isWeighted: true,
  isEquation: false,
  python: (model) => {
    const { values, task, seed } = model;
    const number = numbersIn(model);
    const criterion =
      task === 'regression' ? '' : `criterion="${values['criterion'] === 'gini' ? 'gini' : 'entropy'}", `;
    return estimator(
      'tree',
      task === 'regression' ? 'DecisionTreeRegressor' : 'DecisionTreeClassifier',
      `${criterion}max_depth=${number('depth')}, min_samples_leaf=${number('rows_per_leaf')}, min_samples_split=${number('rows_per_split')}, ccp_alpha=${number('pruning')}, random_state=${seed}`,
    );
  },
  r: (model) => {
    const { task } = model;
    const number = numbersIn(model);
    return {
      needs: 'rpart',
      fit: [
        `fit_model <- function(rows) rpart(as_formula, rows, method = "${task === 'regression' ? 'anova' : 'class'}",`,
        `  control = rpart.control(maxdepth = ${Math.min(30, number('depth'))}, minbucket = ${number('rows_per_leaf')}, minsplit = ${number('rows_per_split')}, cp = 0, xval = 0))`,
      ],
      predict: ['predict_model <- function(model, rows) predict(model, rows)'],
    };
  },
};
