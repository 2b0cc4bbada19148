import { quoted as text } from '../../models/contract/starter-code.js';
import { modelFamilyOf } from '../../models/registry.js';
import { figureWords, starterFigure } from './figures.js';
import { rSaves } from './save-cells.js';
import type { Cell, StarterRequest } from './request.js';

const list = (values: readonly string[]): string => `c(${values.map(text).join(', ')})`;

const words = (of: string): Cell => ({ kind: 'words', text: of });
const code = (...lines: readonly (string | false)[]): Cell => ({
  kind: 'code',
  text: lines.filter((line) => line !== false).join('\n'),
});

/** The steps in R, with the packages that come with it where they have the model, and glmnet or e1071 where not. */
export function rCells(request: StarterRequest): Cell[] {
  const { features, task, model } = request;
  const of = (...kinds: readonly string[]) =>
    features.filter(({ kind }) => kinds.includes(kind)).map(({ name }) => name);
  const { predicts = true, saves = null } = request;
  const dates = saves === null ? of('time') : [];
  const isNumber = task === 'regression';
  const {
    needs: library,
    fit,
    predict,
  } = modelFamilyOf(model).starter.r({ ...request, values: model.values });
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
    words('The preparation is fitted to the rows that the model is trained on, never to others.'),
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
