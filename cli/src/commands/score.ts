import { columnNamed, labelsOf, TASKS, cellTexts, type Column, rowNames } from '@modest-sieve/core/data';
import {
  bestThreshold,
  byClass,
  bySubgroup,
  calibrationTable,
  confusionCounts,
  figureOf,
  intervalOf,
  metricsFor,
  type Figure,
  type Judged,
  type LabelData,
  type Metric,
} from '@modest-sieve/core/metrics';
import type { Predictions } from '@modest-sieve/core/assessment';
import { numberOption, usage, type AddCommand, type Run } from '../command.js';
import { inColumns, shown } from '../text.js';
import { readPredictions } from './predictions.js';
import { checkDistinct, checkTruth, positiveOf, taskOf, weightsOf } from './truth.js';

interface Options {
  readonly truth: string;
  readonly pred: string;
  readonly id: string;
  readonly target: string;
  readonly task?: string;
  readonly positive?: string;
  readonly weight?: string;
  readonly by?: string;
  readonly interval?: number;
  readonly bootstrap?: number;
  readonly seed: number;
  readonly features?: number;
  readonly predColumn?: string;
  readonly probColumn?: string;
}

const run: Run<Options> = async (tools, _, options) => {
  const { id, target: name, weight, by } = options;
  const only = [...new Set([id, name, weight, by].filter((column) => column !== undefined))];
  const { table } = await tools.table(options.truth, { only });
  const target = columnNamed(table, name);
  checkTruth(target, table, options.truth);
  const task = taskOf(options.task, target);
  const labelled = task === 'regression' ? null : labelsOf(target);
  const labels = labelled?.labels ?? [];
  const positive = task === 'binary' ? positiveOf(options.positive, labels) : null;
  rowNames(table, id);
  const identifiers = cellTexts(columnNamed(table, id));
  checkDistinct(identifiers, columnNamed(table, id), options.truth);
  const predictions = readPredictions(await tools.bytes(options.pred), options.pred, {
    identifier: id,
    identifiers,
    task,
    labels,
    positive,
    needs: task === 'regression' ? 'numbers' : 'labels',
    names: {
      ...(options.predColumn === undefined ? {} : { label: options.predColumn }),
      ...(options.probColumn === undefined ? {} : { positive: options.probColumn }),
    },
  });
  const weights = weight === undefined ? null : weightsOf(columnNamed(table, weight), options.truth);
  const judged = judge(target, labelled, positive, predictions, weights, options.features ?? null);
  const metrics = metricsFor(task, options.features !== undefined);
  const figures = metrics.map((metric) => [metric, figureOf(metric, judged)] as const);
  const intervals = intervalsOf(figures, judged, options);
  const groups = by === undefined ? null : bySubgroup(judged, labelsOf(columnNamed(table, by)), metrics);
  const derived = predictions.kind === 'labels' && predictions.derived;
  if (derived && task === 'binary') tools.say(`${options.pred} has no labels: they were derived at 0.5.`);
  const byLabel = judged.kind === 'labels' ? byClass(judged.data) : null;
  const binary =
    judged.kind === 'labels' && task === 'binary' && judged.data.probabilities ? judged.data : null;
  return {
    json: {
      task,
      n: table.rowCount,
      ...(positive === null ? {} : { positive }),
      ...(derived ? { derived: 'labels from probabilities' } : {}),
      ...splitFigures(figures.map(([metric, figure]) => [metric.key, figure])),
      intervals,
      ...(groups === null
        ? {}
        : {
            by: groups.map(({ value, rows, figures: own }) => ({
              value,
              n: rows,
              ...splitFigures(Object.entries(own)),
            })),
          }),
      ...(judged.kind === 'labels' ? { confusion: { labels, counts: confusionCounts(judged.data) } } : {}),
      ...(byLabel === null
        ? {}
        : {
            classes: byLabel.map(({ label, rows, predicted, figures: own }) => ({
              label,
              n: rows,
              predicted,
              ...splitFigures(Object.entries(own)),
            })),
          }),
      ...(binary === null
        ? {}
        : {
            calibration: calibrationTable(binary),
            thresholds: thresholdsOf(binary),
          }),
    },
    text: [
      `${task}, ${table.rowCount} rows${positive === null ? '' : `, positive “${positive}”`}`,
      inColumns(
        ['metric', 'value', 'interval'],
        figures.map(([{ key }, figure]) => {
          const interval = intervals[key];
          const bounds =
            interval && interval.low !== null
              ? `${shown(interval.low)} to ${shown(interval.high)} (${interval.method})`
              : '';
          return [key, figure.value === null ? `– ${figure.reason}` : shown(figure.value), bounds];
        }),
      ),
      ...(judged.kind === 'labels'
        ? [
            'Truth in rows, prediction in columns:',
            inColumns(
              ['', ...labels],
              confusionCounts(judged.data).map((row, code) => [labels[code] ?? '', ...row.map(String)]),
            ),
          ]
        : []),
      ...(groups ?? []).map(
        ({ value, rows, figures: own }) =>
          `${by} ${value}, ${rows} rows: ${metrics
            .slice(0, 4)
            .map(({ key }) => `${key} ${shown(own[key]?.value)}`)
            .join(', ')}`,
      ),
    ].join('\n'),
  };
};

/** Figures by key, and beside them the reason for each that is undefined. */
function splitFigures(figures: readonly (readonly [string, Figure])[]) {
  return {
    metrics: Object.fromEntries(figures.map(([key, figure]) => [key, figure.value])),
    undefined: Object.fromEntries(
      figures.flatMap(([key, figure]) => (figure.value === null ? [[key, figure.reason] as const] : [])),
    ),
  };
}

function intervalsOf(
  figures: readonly (readonly [Metric, Figure])[],
  judged: Judged,
  { interval, bootstrap, seed }: Options,
): Record<string, ReturnType<typeof intervalOf>> {
  if (interval === undefined && bootstrap === undefined) return {};
  const level = interval ?? 0.95;
  if (!(level > 0 && level < 1))
    throw usage('--interval is a share between 0 and 1, for instance 0.95.', 'interval');
  const draws = bootstrap ?? 0;
  if (!Number.isInteger(draws) || draws < 0 || (bootstrap !== undefined && draws < 10))
    throw usage('--bootstrap is a whole number of draws, at least 10.', 'bootstrap');
  return Object.fromEntries(
    figures
      .filter(([, figure]) => figure.value !== null)
      .map(([metric]) => [metric.key, intervalOf(metric, judged, null, { seed, level, draws })]),
  );
}

/** For some figures, the threshold at which each is highest; null where nothing should be called positive. */
function thresholdsOf(data: LabelData) {
  return Object.fromEntries(
    (['accuracy', 'balanced_accuracy', 'f1', 'mcc'] as const).map((key) => {
      const best = bestThreshold(data, key);
      return [key, best && { ...best, threshold: Number.isFinite(best.threshold) ? best.threshold : null }];
    }),
  );
}

function judge(
  target: Column,
  labelled: ReturnType<typeof labelsOf> | null,
  positive: string | null,
  predictions: Predictions,
  weights: Float64Array | null,
  features: number | null,
): Judged {
  if (predictions.kind === 'numbers') {
    if (target.kind !== 'number') throw new TypeError('numbers were predicted of a column of numbers');
    return {
      kind: 'numbers',
      data: { truth: target.values, predicted: predictions.predicted, weights, features },
    };
  }
  if (!labelled) throw new TypeError('classes were predicted of a column of classes');
  const { labels, codes } = labelled;
  return {
    kind: 'labels',
    data: {
      labels,
      truth: codes,
      predicted: predictions.predicted,
      probabilities: predictions.probabilities,
      positive: positive === null ? null : labels.indexOf(positive),
      weights,
    },
  };
}

export const addScore: AddCommand = (program, start) => {
  program
    .command('score')
    .description('Score predictions against the truth.')
    .requiredOption('--truth <file>', 'the table with the answers')
    .requiredOption(
      '--pred <file>',
      'CSV with the identifier and prediction, probability, or p:LABEL for each class',
    )
    .requiredOption('--id <column>', 'names the rows in both files')
    .requiredOption('--target <column>', 'the column of answers')
    .option('--task <task>', `one of ${TASKS.join(', ')}; follows from the target where left out`)
    .option('--positive <label>', 'of a binary task; the last in label order where left out')
    .option('--weight <column>', 'weights of the rows, in the table')
    .option('--by <column>', 'figures for each of its values besides')
    .option('--interval <level>', 'intervals, for instance 0.95', numberOption('interval'))
    .option('--bootstrap <draws>', 'intervals of all metrics, by so many draws', numberOption('bootstrap'))
    .option('--seed <n>', 'of the bootstrap', numberOption('seed'), 0)
    .option('--features <n>', 'number of features, for adjusted R²', numberOption('features'))
    .option('--pred-column <name>', 'of the labels or numbers, where it is not prediction')
    .option('--prob-column <name>', 'of the positive probability, where it is not probability')
    .action(start(run));
};
