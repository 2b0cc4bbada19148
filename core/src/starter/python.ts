import type { Planned } from '../sentence/sentence.js';
import { figureWords, starterFigure } from './figures.js';
import { pythonSaves } from './save-cells.js';
import type { Cell, StarterRequest } from './starter.js';

const text = (value: string): string => JSON.stringify(value);
const list = (values: readonly string[]): string => `[${values.map(text).join(', ')}]`;

const words = (of: string): Cell => ({ kind: 'words', text: of });
const code = (...lines: readonly (string | false)[]): Cell => ({
  kind: 'code',
  text: lines.filter((line) => line !== false).join('\n'),
});

/** Families that need features of one scale. */
const SCALED: ReadonlySet<string> = new Set(['ridge', 'lasso', 'elastic-net', 'nearest']);

/** The steps in Python, with pandas and scikit-learn. */
export function pythonCells(request: StarterRequest): Cell[] {
  const { features, task, model } = request;
  const of = (...kinds: readonly string[]) =>
    features.filter(({ kind }) => kinds.includes(kind)).map(({ name }) => name);
  const { predicts = true, saves = null } = request;
  // No format of models takes dates as these numbers.
  const dates = saves === null ? of('time') : [];
  const left = [...of('text'), ...(saves === null ? [] : of('time'))];
  const isScaled = SCALED.has(model.kind);
  const { imports, make } = estimatorOf(request);
  return [
    words(
      `# ${request.title}\n\nPut this beside ${predicts ? 'training.csv and held-out.csv' : 'training.csv'} of the pack. It needs pandas and scikit-learn.`,
    ),
    code(
      'import pandas as pd',
      'from sklearn.compose import ColumnTransformer',
      'from sklearn.impute import SimpleImputer',
      'from sklearn.pipeline import make_pipeline',
      `from sklearn.preprocessing import OneHotEncoder${isScaled ? ', StandardScaler' : ''}`,
      imports,
    ),
    words(
      left.length === 0
        ? 'The columns.'
        : `Columns of free text${saves === null ? '' : ' and dates'} are left out: ${left.join(', ')}.`,
    ),
    code(
      `identifier = ${text(request.identifier)}`,
      `target = ${text(request.target)}`,
      `numbers = ${list([...of('number'), ...dates])}`,
      `categories = ${list(of('category', 'boolean'))}`,
      dates.length > 0 && `dates = ${list(dates)}  # in days since 1970`,
    ),
    code(
      '# Identifiers and labels stay as they are written: 007 is not 7. An empty cell has no value.',
      `texts = {name: str for name in [identifier, ${task === 'regression' ? '' : 'target, '}*categories]}`,
      'def read(file):',
      '    return pd.read_csv(file, dtype=texts, keep_default_na=False, na_values=[""])',
      'training = read("training.csv")',
      predicts && 'held_out = read("held-out.csv")',
      ...(dates.length > 0
        ? [
            `for table in (${predicts ? 'training, held_out' : 'training,'}):`,
            '    for name in dates:',
            '        table[name] = (pd.to_datetime(table[name], utc=True) - pd.Timestamp(0, tz="UTC")) / pd.Timedelta(days=1)',
          ]
        : []),
    ),
    words('The preparation is learned from the rows that the model learns from, never from others.'),
    code(
      'def make_model(rows):',
      '    prepare = ColumnTransformer([',
      `        ("numbers", make_pipeline(SimpleImputer(strategy="median")${isScaled ? ', StandardScaler()' : ''}), numbers),`,
      `        ("categories", make_pipeline(SimpleImputer(strategy="most_frequent"), OneHotEncoder(handle_unknown="ignore"${model.kind === 'tree' || model.kind === 'nearest' ? '' : ', drop="first"'}, sparse_output=False)${isScaled ? ', StandardScaler()' : ''}), categories),`,
      '    ])',
      ...make,
      '    return make_pipeline(prepare, model)',
    ),
    ...foldCells(request),
    words(predicts ? 'All training rows, then the rows that are held out.' : 'All training rows.'),
    code(
      'model = make_model(training)',
      `model.fit(training[numbers + categories], training[target]${weightText(request, 'training')})`,
      ...(predicts
        ? [...answerLines(request), 'answers.to_csv("predictions.csv", index=False)', 'answers.head()']
        : []),
    ),
    ...pythonSaves(request),
  ];
}

const weightText = ({ weight, model }: StarterRequest, table: string): string =>
  weight === null || model.kind === 'nearest'
    ? ''
    : `, **{model.steps[-1][0] + "__sample_weight": ${table}[${text(weight)}]}`;

/** The mean figure over the folds of the pack. */
function foldCells(request: StarterRequest): Cell[] {
  if (request.folds === 'none') return [];
  const isNumber = request.task === 'regression';
  const drawn = request.folds === 'drawn';
  const figure = starterFigure(request, 'python');
  return [
    words(figureWords(request, figure)),
    code(
      figure.imports.length > 0 && `from sklearn.metrics import ${figure.imports.join(', ')}`,
      'folds = read("folds.csv")',
      'folds[folds.columns[0]] = folds[folds.columns[0]].astype(str)',
      'training.index = training[identifier] if identifier in training else [str(row) for row in range(len(training))]',
      'scores = []',
      'for (repeat, fold), tested in folds[folds["fold"] > 0].groupby(["repeat", "fold"]):',
      '    names = folds.loc[folds["repeat"] == repeat].set_index(folds.columns[0])',
      drawn
        ? '    learned = training.loc[names.index.repeat(names["drawn"])]'
        : '    learned = training.loc[names.index[names["fold"] != fold]]',
      '    own = training.loc[tested[folds.columns[0]]]',
      '    model = make_model(learned)',
      `    model.fit(learned[numbers + categories], learned[target]${weightText(request, 'learned')})`,
      '    truth = own[target]',
      '    said = model.predict(own[numbers + categories])',
      !isNumber &&
        '    chances = pd.DataFrame(model.predict_proba(own[numbers + categories]), own.index, model.classes_)',
      `    scores.append(${figure.expression})`,
      `print(${text(figure.name)}, pd.Series(scores).mean(), "standard error", pd.Series(scores).sem())`,
    ),
  ];
}

function answerLines({ needs, positive, labels, task }: StarterRequest): string[] {
  const first = 'answers = pd.DataFrame({identifier: held_out[identifier]})';
  if (needs !== 'probabilities')
    return [first, 'answers["prediction"] = model.predict(held_out[numbers + categories])'];
  const chances =
    'chances = pd.DataFrame(model.predict_proba(held_out[numbers + categories]), columns=model.classes_)';
  if (task === 'binary')
    return [
      first,
      chances,
      `answers["probability"] = chances[${text(positive ?? labels.at(-1) ?? '')}].to_numpy()`,
    ];
  return [
    first,
    chances,
    `for label in ${list(labels)}:`,
    '    answers["p:" + label] = chances[label].to_numpy() if label in chances else 0.0',
  ];
}

interface Estimator {
  readonly imports: string;
  /** Lines that set `model`, where `rows` are those that are learned from. */
  readonly make: readonly string[];
}

function estimatorOf({ model, task, seed, target }: StarterRequest): Estimator {
  const number = (key: string) => Number(model.values[key]);
  const isNumber = task === 'regression';
  const simple = (module: string, name: string, options = ''): Estimator => ({
    imports: `from sklearn.${module} import ${name}`,
    make: [`    model = ${name}(${options})`],
  });
  switch (model.kind) {
    case 'most-frequent':
      return simple('dummy', 'DummyClassifier', 'strategy="most_frequent"');
    case 'class-shares':
      return simple('dummy', 'DummyClassifier', 'strategy="prior"');
    case 'mean':
    case 'median':
      return simple('dummy', 'DummyRegressor', `strategy="${model.kind}"`);
    case 'logistic':
      return simple('linear_model', 'LogisticRegression', 'penalty=None, max_iter=10000');
    case 'nearest':
      return simple(
        'neighbors',
        isNumber ? 'KNeighborsRegressor' : 'KNeighborsClassifier',
        `n_neighbors=${number('neighbours')}, weights=${text(String(model.values['weights']))}`,
      );
    case 'naive-bayes':
      return naiveBayes(model, simple);
    case 'tree':
      return simple(
        'tree',
        isNumber ? 'DecisionTreeRegressor' : 'DecisionTreeClassifier',
        `${isNumber ? '' : `criterion="${model.values['criterion'] === 'gini' ? 'gini' : 'entropy'}", `}max_depth=${number('depth')}, min_samples_leaf=${number('rows_per_leaf')}, min_samples_split=${number('rows_per_split')}, ccp_alpha=${number('pruning')}, random_state=${seed}`,
      );
    case 'ridge':
    case 'lasso':
    case 'elastic-net':
      return penalised(model, isNumber, target);
    default:
      return isNumber
        ? simple('linear_model', 'LinearRegression')
        : simple('linear_model', 'LogisticRegression', 'penalty=None, max_iter=10000');
  }
}

function naiveBayes(
  model: Planned,
  simple: (module: string, name: string, options?: string) => Estimator,
): Estimator {
  const laplace = `alpha=${Number(model.values['laplace'])}`;
  if (model.values['kind'] === 'bernoulli') return simple('naive_bayes', 'BernoulliNB', laplace);
  if (model.values['kind'] === 'multinomial') return simple('naive_bayes', 'MultinomialNB', laplace);
  // scikit-learn has no naive Bayes of kernels or of mixed columns: this is the nearest.
  return simple('naive_bayes', 'GaussianNB');
}

/** 1/(2n) RSS + λ(α‖b‖₁ + (1 − α)/2 ‖b‖₂²), on a target of deviation 1 where the penalty is counted so. */
function penalised({ kind, values }: Planned, isNumber: boolean, target: string): Estimator {
  const mixing = kind === 'ridge' ? 0 : kind === 'lasso' ? 1 : Number(values['mixing']);
  const penalty = Number(values['penalty']);
  if (!isNumber)
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
      `    spread = ${byDeviation ? `rows[${text(target)}].std(ddof=0)` : '1.0'}`,
      mixing === 0
        ? `    plain = Ridge(alpha=${penalty} / spread * len(rows))`
        : `    plain = ElasticNet(alpha=${penalty} / spread, l1_ratio=${mixing}, max_iter=100000)`,
      byDeviation
        ? '    model = TransformedTargetRegressor(plain, transformer=StandardScaler())'
        : '    model = plain',
    ],
  };
}
