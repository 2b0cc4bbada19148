import {
  fitModel,
  judgedBy,
  MODEL_FAMILIES,
  modelFamilyOf,
  predictRows,
  modelFromSettings,
  targetOf,
  targetRows,
  weightsOf,
  writeFitted,
  type Fitted,
} from '@modest-sieve/core/models';
import { columnNamed, isMissing, type Table, type Task } from '@modest-sieve/core/data';
import { makeFolds, testRows, type FoldPlan } from '@modest-sieve/core/splitting';
import { figureOf, metricNamed } from '@modest-sieve/core/metrics';
import {
  chooseSetting,
  measureFold,
  settleSettings,
  settingsOf,
  summariseSetting,
  trialMetrics,
  type SettingSummary,
} from '@modest-sieve/core/evaluation';
import { numberOption, type AddCommand, type Run } from '../command.js';
import { positiveOf, taskOf } from './truth.js';
import { describe, textOf } from './fit-text.js';

interface Options {
  readonly target: string;
  readonly task?: string;
  readonly positive?: string;
  readonly model: string;
  readonly set?: readonly string[];
  readonly features?: string;
  readonly cv?: number;
  readonly stratify?: string;
  readonly group?: string;
  readonly weight?: string;
  readonly seed: number;
  readonly save?: string;
}

/** By which the best penalty is chosen: what glmnet calls the deviance. */
const JUDGED_BY: Readonly<Record<Task, string>> = {
  regression: 'mse',
  binary: 'log_loss',
  multiclass: 'log_loss',
};

const run: Run<Options> = async (tools, [file = ''], options) => {
  const { table } = await tools.table(file);
  const column = columnNamed(table, options.target);
  const task = taskOf(options.task, column);
  const labelled = Int32Array.from({ length: table.rowCount }, (_, row) => row).filter(
    (row) => !isMissing(column, row),
  );
  if (labelled.length < table.rowCount)
    tools.say(`${table.rowCount - labelled.length} rows without ${options.target} are left out.`);
  const named = targetOf(table, { target: options.target, task, positive: options.positive ?? null });
  const positive =
    task === 'binary' && named.kind === 'classes' ? positiveOf(options.positive, named.labels) : null;
  const request = {
    table,
    model: modelFromSettings(options.model, options.set ?? [], 'set'),
    task,
    targetName: options.target,
    group: options.group ?? null,
    target: targetOf(table, { target: options.target, task, positive }),
    features: featuresFrom(table, options),
    rows: labelled,
    weights: weightsOf(table, options.weight ?? null),
    seed: options.seed,
    helpers: tools.helpers,
  };
  const hasPath = modelFamilyOf(request.model).hyperparameters.some(
    ({ key, settings }) => key === 'penalty' && settings === 'path',
  );
  const wholePath = hasPath && !(options.set ?? []).some((setting) => setting.startsWith('penalty='));
  const vary = wholePath ? settleSettings(request, { vary: [{ key: 'penalty', settings: [] }] }) : [];
  const folds = options.cv === undefined ? null : foldsOf(request.rows, table, options, options.cv);
  const measured = folds?.map(({ training, test }) => measureFold({ ...request, training, test, vary }));
  const metrics = trialMetrics(task);
  const summaries = measured
    ? settingsOf(vary).map((values, s) =>
        summariseSetting(
          values,
          measured.flatMap(({ figures }) => figures.slice(s, s + 1)),
          metrics,
        ),
      )
    : [];
  const choice =
    wholePath && summaries.length > 0
      ? chooseSetting(summaries, metricNamed(JUDGED_BY[task]), modelFamilyOf(request.model).hyperparameters)
      : null;
  const penalty = choice ? summaries[choice.best]?.values['penalty'] : vary[0]?.settings.at(-1);
  const model =
    penalty === undefined
      ? request.model
      : { ...request.model, values: { ...request.model.values, penalty } };
  const fitted = fitModel({ ...request, model });
  const warnings = [...new Set([...fitted.warnings, ...(measured?.flatMap((fold) => fold.warnings) ?? [])])];
  warnings.forEach((warning) => tools.say(warning));
  const predicted = predictRows(fitted, table, labelled);
  const judged = judgedBy(targetRows(request.target, labelled), predicted);
  const train = Object.fromEntries(metrics.map((metric) => [metric.key, figureOf(metric, judged).value]));
  const summary = summaries[choice?.best ?? 0];
  return {
    json: {
      model: options.model,
      settings: fitted.model.values,
      task,
      rows: labelled.length,
      ...describe(fitted),
      metrics: {
        train,
        ...(summary && measured ? { cv: cvOf(summary, measured.length) } : {}),
      },
      ...(choice
        ? {
            penalty_best: summaries[choice.best]?.values['penalty'],
            penalty_within_se: summaries[choice.simplest]?.values['penalty'],
          }
        : {}),
      warnings,
    },
    text: textOf(fitted, train, summary),
    files:
      options.save === undefined
        ? []
        : [{ path: options.save, content: await savedAs(options.save, fitted, table) }],
  };
};

/** The fitted model in the format of the file's ending: PMML, ONNX, or JSON; `sieve predict` reads all three. */
async function savedAs(path: string, fitted: Fitted, table: Table): Promise<string | Uint8Array> {
  const ending = /\.(pmml|onnx)$/i.exec(path)?.[1]?.toLowerCase();
  if (ending === undefined) return `${writeFitted(fitted)}\n`;
  // What reads and writes models is loaded only where it is needed.
  const { writeOnnx, writePmml } = await import('@modest-sieve/core/model-files');
  const dates = table.columns.filter(({ kind }) => kind === 'time').map(({ name }) => name);
  return (ending === 'pmml' ? writePmml : writeOnnx)(fitted, new Set(dates));
}

function featuresFrom(table: Table, { target, features, group, weight }: Options): string[] {
  if (features !== undefined) return features.split(',').map((name) => columnNamed(table, name.trim()).name);
  return table.columns.map(({ name }) => name).filter((name) => ![target, group, weight].includes(name));
}

/** Folds of the labelled rows. */
function foldsOf(rows: Int32Array, table: Table, { stratify, group, seed }: Options, k: number) {
  const usable = new Uint8Array(table.rowCount);
  rows.forEach((row) => (usable[row] = 1));
  const byRows = stratify === undefined ? 'k-fold' : 'stratified';
  const byGroups = stratify === undefined ? 'grouped' : 'stratified-grouped';
  const plan: FoldPlan = {
    method: group === undefined ? byRows : byGroups,
    k,
    seed,
    ...(stratify === undefined ? {} : { stratify }),
    ...(group === undefined ? {} : { group }),
  };
  const folds = makeFolds(table, plan, usable);
  return Array.from({ length: folds.count }, (_, fold) => ({
    training: folds.training(0, fold),
    test: testRows(folds, 0, fold),
  }));
}

function cvOf({ metrics }: SettingSummary, count: number) {
  const each = <V>(pick: (summary: SettingSummary['metrics'][string]) => V) =>
    Object.fromEntries(Object.entries(metrics).map(([key, summary]) => [key, pick(summary)]));
  return {
    mean: each(({ mean }) => mean),
    se: each(({ se }) => se),
    folds: Array.from({ length: count }, (_, fold) => each(({ folds }) => folds[fold] ?? null)),
    undefined: Object.fromEntries(
      Object.entries(metrics).flatMap(([key, { reason }]) => (reason === null ? [] : [[key, reason]])),
    ),
  };
}

export const addFit: AddCommand = (program, start) => {
  program
    .command('fit')
    .description('Fit a model, and judge it over folds.')
    .argument('<file>', 'the table; - is CSV on standard input')
    .requiredOption('--target <column>', 'what is predicted')
    .option('--task <task>', 'binary, multiclass or regression; follows from the target where left out')
    .option('--positive <label>', 'the positive class of a binary task')
    .requiredOption('--model <name>', `one of ${MODEL_FAMILIES.map(({ key }) => key).join(', ')}`)
    .option(
      '--set <key=value>',
      'a setting of the model; may be given several times',
      (setting: string, earlier: readonly string[] | undefined) => [...(earlier ?? []), setting],
    )
    .option('--features <columns>', 'the columns that are predicted from, apart by commas; else all others')
    .option('--cv <k>', 'judge it over so many folds', numberOption('cv'))
    .option('--stratify <column>', 'equal shares of its values in every fold')
    .option('--group <column>', 'the rows of one value stay together, and it is no feature')
    .option('--weight <column>', 'how much each row counts while the model is fitted')
    .requiredOption('--seed <n>', 'the same seed gives the same folds', numberOption('seed'))
    .option('--save <file>', 'the fitted model: JSON, or PMML or ONNX by the ending .pmml or .onnx')
    .action(start(run));
};
