import type { PythonModel, RModel, StarterCode, StarterModel } from '../contract/starter-code.js';
import { memberIn, type Member } from './members.js';

const textsIn = ({ values }: StarterModel, key: string): string[] => {
  const value = values[key];
  return Array.isArray(value) ? value.map(String) : [String(value)];
};

/** Lines of Python that gather what the starters of members make, as pairs of a name and a model. */
function gathered(model: StarterModel, members: readonly Member[]): PythonModel {
  const parts = members.map(({ kind, plan }) => kind.starter.python({ ...model, values: plan.values }));
  return {
    imports: [...new Set(parts.map(({ imports }) => imports))].join('\n'),
    make: [
      '    members = []',
      ...parts.flatMap(({ make }, i) => [...make, `    members.append(("model ${i + 1}", model))`]),
    ],
  };
}

/** A vote of classes gives shares, as probabilities do; a vote of numbers is their median. */
const VOTES = {
  classes: [
    'import numpy as np',
    'class Votes(VotingClassifier):',
    '    def predict_proba(self, rows):',
    '        return np.mean([np.eye(len(self.classes_))[one.predict(rows)] for one in self.estimators_], axis=0)',
  ],
  numbers: [
    'import numpy as np',
    'class Votes(VotingRegressor):',
    '    def predict(self, rows):',
    '        return np.median([one.predict(rows) for one in self.estimators_], axis=0)',
  ],
};

function combinedPython(model: StarterModel): PythonModel {
  const { values, task } = model;
  const own = gathered(
    model,
    textsIn(model, 'members').map((line) => memberIn(line, 'members')),
  );
  const ending = task === 'regression' ? 'Regressor' : 'Classifier';
  const folds = Number(values['folds']);
  if (values['by'] === 'stack')
    return {
      imports: [
        own.imports,
        `from sklearn.ensemble import Stacking${ending}`,
        `from sklearn.linear_model import ${task === 'regression' ? 'LinearRegression' : 'LogisticRegression'}`,
      ].join('\n'),
      make: [
        ...own.make,
        task === 'regression'
          ? `    model = StackingRegressor(members, LinearRegression(positive=True, fit_intercept=False), cv=${folds})  # weights here need not sum to 1`
          : `    model = StackingClassifier(members, LogisticRegression(max_iter=1000), cv=${folds})  # weighs by a logistic regression, not by shares`,
      ],
    };
  const isVote = values['by'] === 'vote';
  const votes = VOTES[task === 'regression' ? 'numbers' : 'classes'];
  const voting = task === 'regression' ? '' : `, voting="${isVote ? 'hard' : 'soft'}"`;
  return {
    imports: [own.imports, `from sklearn.ensemble import Voting${ending}`, ...(isVote ? votes : [])].join(
      '\n',
    ),
    make: [...own.make, `    model = ${isVote ? 'Votes' : `Voting${ending}`}(members${voting})`],
  };
}

/** The functions of each member under names of its own, and the packages that they need. */
function membersInR(model: StarterModel, members: readonly Member[]) {
  const parts = members.map(({ kind, plan }) => kind.starter.r({ ...model, values: plan.values }));
  const named = (lines: readonly string[], i: number) =>
    lines.map((line) =>
      line.replace(/\bfit_model\b/g, `fit_${i + 1}`).replace(/\bpredict_model\b/g, `predict_${i + 1}`),
    );
  const all = (name: string) => `list(${parts.map((_, i) => `${name}_${i + 1}`).join(', ')})`;
  const [needs = '', ...others] = [...new Set(parts.map((part) => part.needs))].filter((one) => one !== '');
  return {
    needs,
    lines: [
      ...others.map((one) => `library(${one})`),
      ...parts.flatMap(({ fit, predict }, i) => [...named(fit, i), ...named(predict, i)]),
      `fits <- ${all('fit')}`,
      `says <- ${all('predict')}`,
      'ask <- function(models, rows) Map(function(say, model) say(model, rows), says, models)',
    ],
  };
}

const MEAN = 'Reduce(`+`, said) / length(said)';

function combinedR(model: StarterModel): RModel {
  const { values, task, seed } = model;
  const { needs, lines } = membersInR(
    model,
    textsIn(model, 'members').map((line) => memberIn(line, 'members')),
  );
  if (values['by'] === 'stack') {
    const folds = Number(values['folds']);
    return {
      needs,
      fit: [
        ...lines,
        'shares <- function(w) exp(w) / sum(exp(w))',
        'fit_model <- function(rows) {',
        `  set.seed(${seed})`,
        `  fold <- sample(rep_len(1:${folds}, nrow(rows)))`,
        task === 'regression'
          ? '  truth <- as.matrix(rows[[target]])'
          : '  truth <- model.matrix(~ factor(rows[[target]], levels = labels) - 1)',
        '  out <- Map(function(fit, say) {',
        '    said <- truth * 0',
        `    for (k in 1:${folds}) said[fold == k, ] <- as.matrix(say(fit(rows[fold != k, ]), rows[fold == k, ]))`,
        '    said',
        '  }, fits, says)',
        '  error <- function(w) sum((Reduce(`+`, Map(`*`, out, shares(w))) - truth)^2)',
        '  list(models = lapply(fits, function(fit) fit(rows)), weights = shares(optim(rep(0, length(fits)), error)$par))',
        '}',
      ],
      predict: [
        'predict_model <- function(model, rows) Reduce(`+`, Map(`*`, ask(model$models, rows), model$weights))',
      ],
    };
  }
  const vote =
    task === 'regression'
      ? 'apply(do.call(cbind, said), 1, median)'
      : 'Reduce(`+`, lapply(said, function(one) diag(length(labels))[max.col(one, "first"), , drop = FALSE])) / length(said)';
  return {
    needs,
    fit: [...lines, 'fit_model <- function(rows) lapply(fits, function(fit) fit(rows))'],
    predict: [
      'predict_model <- function(model, rows) {',
      '  said <- ask(model, rows)',
      `  ${values['by'] === 'vote' ? vote : MEAN}`,
      '}',
    ],
  };
}

const COMMON = {
  isScaled: true,
  dummies: 'all but the first',
  isWeighted: false,
  isEquation: false,
} as const;

export const combinationStarter: StarterCode = { ...COMMON, python: combinedPython, r: combinedR };

export const baggingStarter: StarterCode = {
  ...COMMON,
  python: (model) => {
    const { kind, plan } = memberIn(textsIn(model, 'model')[0] ?? '', 'model');
    const own = kind.starter.python({ ...model, values: plan.values });
    const name = `Bagging${model.task === 'regression' ? 'Regressor' : 'Classifier'}`;
    return {
      imports: `${own.imports}\nfrom sklearn.ensemble import ${name}`,
      make: [
        ...own.make,
        `    model = ${name}(model, ${Number(model.values['models'])}, max_samples=${Number(model.values['share']) / 100}, oob_score=True, random_state=${model.seed})`,
      ],
    };
  },
  r: (model) => {
    const member = memberIn(textsIn(model, 'model')[0] ?? '', 'model');
    const { needs, lines } = membersInR(model, [member]);
    return {
      needs,
      fit: [
        ...lines,
        'fit_model <- function(rows) {',
        `  set.seed(${model.seed})`,
        `  lapply(1:${Number(model.values['models'])}, function(i) fit_1(rows[sample(nrow(rows), max(1, round(nrow(rows) * ${Number(model.values['share']) / 100})), replace = TRUE), ]))`,
        '}',
      ],
      predict: [
        'predict_model <- function(model, rows) {',
        '  said <- lapply(model, function(one) predict_1(one, rows))',
        `  ${MEAN}`,
        '}',
      ],
    };
  },
};
