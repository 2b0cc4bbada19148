import { figureWords, starterFigure } from './figures.js';
import { rSaves } from './save-cells.js';
import type { Cell, StarterRequest } from './starter.js';

const text = (value: string): string => JSON.stringify(value);
const list = (values: readonly string[]): string => `c(${values.map(text).join(', ')})`;

const words = (of: string): Cell => ({ kind: 'words', text: of });
const code = (...lines: readonly (string | false)[]): Cell => ({
  kind: 'code',
  text: lines.filter((line) => line !== false).join('\n'),
});

/** The steps in R, with the packages that come with it where they have the model, and glmnet or e1071 where not. */
export function rCells(request: StarterRequest): Cell[] {
  const { features, task } = request;
  const of = (...kinds: readonly string[]) =>
    features.filter(({ kind }) => kinds.includes(kind)).map(({ name }) => name);
  const { predicts = true, saves = null } = request;
  const dates = saves === null ? of('time') : [];
  const isNumber = task === 'regression';
  const { needs: library, fit, predict } = modelOf(request);
  return [
    words(
      `# ${request.title}\n\nPut this beside ${predicts ? 'training.csv and held-out.csv' : 'training.csv'} of the pack.${library === '' ? '' : ` It needs the package ${library}.`}`,
    ),
    code(
      ...(library === '' ? [] : [`library(${library})`]),
      `identifier <- ${text(request.identifier)}`,
      `target <- ${text(request.target)}`,
      `numbers <- ${list([...of('number'), ...dates])}`,
      `categories <- ${list(of('category', 'boolean'))}`,
      !isNumber && `labels <- ${list(request.labels)}`,
      '# Identifiers and labels stay as they are written: 007 is not 7. An empty cell has no value.',
      'read <- function(file) {',
      '  rows <- read.csv(file, check.names = FALSE, colClasses = "character", na.strings = "")',
      `  for (name in intersect(${list([...of('number'), ...(isNumber ? [request.target] : [])])}, names(rows))) rows[[name]] <- as.numeric(rows[[name]])`,
      '  rows',
      '}',
      'training <- read("training.csv")',
      predicts && 'held_out <- read("held-out.csv")',
      ...dates.map(
        (name) =>
          `for (name in ${text(name)}) { training[[name]] <- as.numeric(as.Date(training[[name]]))${predicts ? '; held_out[[name]] <- as.numeric(as.Date(held_out[[name]]))' : ''} }`,
      ),
      !isNumber && 'training[[target]] <- factor(training[[target]], levels = labels)',
    ),
    words('The preparation is learned from the rows that the model learns from, never from others.'),
    code(
      'learn_preparation <- function(rows) list(',
      '  fill = lapply(rows[numbers], median, na.rm = TRUE),',
      '  levels = lapply(rows[categories], function(x) names(sort(-table(x)))))',
      'prepare <- function(rows, learned) {',
      '  for (name in numbers) rows[[name]][is.na(rows[[name]])] <- learned$fill[[name]]',
      '  for (name in categories) {',
      '    known <- learned$levels[[name]]',
      '    cells <- as.character(rows[[name]])',
      '    cells[!(cells %in% known)] <- known[1]',
      '    rows[[name]] <- factor(cells, levels = sort(known))',
      '  }',
      '  rows',
      '}',
      'as_matrix <- function(rows) model.matrix(~ ., rows[c(numbers, categories)])[, -1, drop = FALSE]',
      'as_formula <- reformulate(sprintf("`%s`", c(numbers, categories)), sprintf("`%s`", target))',
    ),
    words('The model.'),
    code(...fit, ...predict),
    ...foldCells(request),
    words(predicts ? 'All training rows, then the rows that are held out.' : 'All training rows.'),
    code(
      'learned <- learn_preparation(training)',
      'model <- fit_model(prepare(training, learned))',
      ...(predicts
        ? [
            'found <- predict_model(model, prepare(held_out, learned))',
            ...answerLines(request),
            'write.csv(answers, "predictions.csv", row.names = FALSE)',
            'head(answers)',
          ]
        : []),
    ),
    ...rSaves(request),
  ];
}

function foldCells(request: StarterRequest): Cell[] {
  const { folds, task } = request;
  if (folds === 'none') return [];
  const isNumber = task === 'regression';
  const figure = starterFigure(request, 'r');
  return [
    words(figureWords(request, figure)),
    code(
      'folds <- read("folds.csv")',
      'for (name in intersect(c("repeat", "fold", "drawn"), names(folds))) folds[[name]] <- as.numeric(folds[[name]])',
      'place <- if (identifier %in% names(training)) match(folds[[1]], training[[identifier]]) else as.numeric(folds[[1]]) + 1',
      'scores <- c()',
      'for (repeat_ in unique(folds[["repeat"]])) for (fold in setdiff(sort(unique(folds$fold)), 0)) {',
      '  here <- folds[["repeat"]] == repeat_',
      folds === 'drawn'
        ? '  rows <- training[rep(place[here], folds$drawn[here]), ]'
        : '  rows <- training[place[here & folds$fold != fold], ]',
      '  own <- training[place[here & folds$fold == fold], ]',
      '  learned <- learn_preparation(rows)',
      '  found <- predict_model(fit_model(prepare(rows, learned)), prepare(own, learned))',
      '  truth <- own[[target]]',
      isNumber ? '  said <- found' : '  chances <- found',
      !isNumber && '  said <- labels[max.col(found, ties.method = "first")]',
      `  scores <- c(scores, ${figure.expression})`,
      '}',
      `cat(${text(figure.name)}, mean(scores), "standard error", sd(scores) / sqrt(length(scores)), "\\n")`,
    ),
  ];
}

function answerLines({ needs, positive, labels, task, identifier }: StarterRequest): string[] {
  const frame = (columns: string) =>
    `answers <- data.frame(${text(identifier)} = held_out[[identifier]], ${columns}, check.names = FALSE)`;
  if (needs === 'numbers') return [frame('prediction = found')];
  if (needs === 'labels') return [frame('prediction = labels[max.col(found, ties.method = "first")]')];
  if (task === 'binary')
    return [frame(`probability = found[, ${labels.indexOf(positive ?? labels.at(-1) ?? '') + 1}]`)];
  return [
    'colnames(found) <- paste0("p:", labels)',
    `answers <- cbind(${frame('found').replace('answers <- ', '')})`,
  ];
}

interface RModel {
  /** A package that does not come with R; empty where none is needed. */
  readonly needs: string;
  readonly fit: readonly string[];
  /** Numbers, or a matrix of the probabilities of `labels`. */
  readonly predict: readonly string[];
}

function modelOf({ model, task }: StarterRequest): RModel {
  const number = (key: string) => Number(model.values[key]);
  const isNumber = task === 'regression';
  const constant = (value: string): RModel => ({
    needs: '',
    fit: [`fit_model <- function(rows) ${value}`],
    predict: [
      isNumber
        ? 'predict_model <- function(model, rows) rep(model, nrow(rows))'
        : 'predict_model <- function(model, rows) matrix(model, nrow(rows), length(labels), byrow = TRUE)',
    ],
  });
  switch (model.kind) {
    case 'most-frequent':
      return constant('as.numeric(seq_along(labels) == which.max(table(rows[[target]])))');
    case 'class-shares':
      return constant('as.numeric(prop.table(table(rows[[target]])))');
    case 'mean':
    case 'median':
      return constant(`${model.kind}(rows[[target]])`);
    case 'tree':
      return {
        needs: 'rpart',
        fit: [
          `fit_model <- function(rows) rpart(as_formula, rows, method = "${isNumber ? 'anova' : 'class'}",`,
          `  control = rpart.control(maxdepth = ${Math.min(30, number('depth'))}, minbucket = ${number('rows_per_leaf')}, minsplit = ${number('rows_per_split')}, cp = 0, xval = 0))`,
        ],
        predict: ['predict_model <- function(model, rows) predict(model, rows)'],
      };
    case 'ridge':
    case 'lasso':
    case 'elastic-net': {
      const mixing = model.kind === 'ridge' ? 0 : model.kind === 'lasso' ? 1 : number('mixing');
      return {
        needs: 'glmnet',
        fit: [
          `fit_model <- function(rows) glmnet(as_matrix(rows), rows[[target]], family = "${isNumber ? 'gaussian' : 'binomial'}", alpha = ${mixing})`,
        ],
        predict: isNumber
          ? [
              `predict_model <- function(model, rows) as.numeric(predict(model, as_matrix(rows), s = ${number('penalty')}))`,
            ]
          : [
              `predict_model <- function(model, rows) { p <- as.numeric(predict(model, as_matrix(rows), s = ${number('penalty')}, type = "response")); cbind(1 - p, p) }`,
            ],
      };
    }
    case 'nearest':
      return {
        needs: '',
        fit: ['fit_model <- function(rows) list(x = scale(as_matrix(rows)), y = rows[[target]])'],
        predict: [
          'predict_model <- function(model, rows) {',
          '  x <- scale(as_matrix(rows), attr(model$x, "scaled:center"), attr(model$x, "scaled:scale"))',
          '  t(apply(x, 1, function(row) {',
          `    near <- order(colSums((t(model$x) - row)^2))[seq_len(min(${number('neighbours')}, nrow(model$x)))]`,
          isNumber ? '    mean(model$y[near])' : '    as.numeric(prop.table(table(model$y[near])))',
          isNumber ? '  }))[1, ]' : '  }))',
          '}',
        ],
      };
    case 'naive-bayes':
      return {
        needs: 'e1071',
        fit: [
          `fit_model <- function(rows) naiveBayes(rows[c(numbers, categories)], rows[[target]], laplace = ${number('laplace')})`,
        ],
        predict: ['predict_model <- function(model, rows) predict(model, rows, type = "raw")'],
      };
    default:
      return regression(task);
  }
}

function regression(task: StarterRequest['task']): RModel {
  if (task === 'regression')
    return {
      needs: '',
      fit: ['fit_model <- function(rows) lm(as_formula, rows)'],
      predict: ['predict_model <- function(model, rows) as.numeric(predict(model, rows))'],
    };
  if (task === 'binary')
    return {
      needs: '',
      fit: ['fit_model <- function(rows) glm(as_formula, rows, family = binomial)'],
      predict: [
        'predict_model <- function(model, rows) { p <- as.numeric(predict(model, rows, type = "response")); cbind(1 - p, p) }',
      ],
    };
  return {
    needs: 'nnet',
    fit: ['fit_model <- function(rows) multinom(as_formula, rows, trace = FALSE, maxit = 1000)'],
    predict: ['predict_model <- function(model, rows) predict(model, rows, type = "probs")'],
  };
}
