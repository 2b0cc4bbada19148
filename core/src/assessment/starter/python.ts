import { quoted as text } from '../../models/contract/starter-code.js';
import { modelFamilyOf } from '../../models/registry.js';
import { figureWords, starterFigure } from './figures.js';
import { pythonSaves } from './save-cells.js';
import type { Cell, StarterRequest } from './request.js';

const list = (values: readonly string[]): string => `[${values.map(text).join(', ')}]`;

const words = (of: string): Cell => ({ kind: 'words', text: of });
const code = (...lines: readonly (string | false)[]): Cell => ({
  kind: 'code',
  text: lines.filter((line) => line !== false).join('\n'),
});

/** The steps in Python, with pandas and scikit-learn. */
export function pythonCells(request: StarterRequest): Cell[] {
  const { features, task, model } = request;
  const of = (...kinds: readonly string[]) =>
    features.filter(({ kind }) => kinds.includes(kind)).map(({ name }) => name);
  const { predicts = true, saves = null } = request;
  // No format of models takes dates as these numbers.
  const dates = saves === null ? of('time') : [];
  const left = [...of('text'), ...(saves === null ? [] : of('time'))];
  const { starter } = modelFamilyOf(model);
  const { isScaled } = starter;
  const { imports, make } = starter.python({ ...request, values: model.values });
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
    words('The preparation is fitted to the rows that the model is trained on, never to others.'),
    code(
      'def make_model(rows):',
      '    prepare = ColumnTransformer([',
      `        ("numbers", make_pipeline(SimpleImputer(strategy="median")${isScaled ? ', StandardScaler()' : ''}), numbers),`,
      `        ("categories", make_pipeline(SimpleImputer(strategy="most_frequent"), OneHotEncoder(handle_unknown="ignore"${starter.dummies === 'all' ? '' : ', drop="first"'}, sparse_output=False)${isScaled ? ', StandardScaler()' : ''}), categories),`,
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
  weight === null || !modelFamilyOf(model).starter.isWeighted
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
