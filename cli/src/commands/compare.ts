import { SieveError } from '@modest-sieve/core/foundation';
import {
  cellText,
  cellTexts,
  columnNamed,
  labelsOf,
  readCsv,
  sortLabels,
  suggestTask,
  type Column,
  type Table,
  type Task,
  rowNames,
} from '@modest-sieve/core/data';
import { compareLabels, compareNumbers } from '@modest-sieve/core/evaluation';
import type { Predictions } from '@modest-sieve/core/assessment';
import { numberOption, usage, type AddCommand, type Run, type Tools } from '../command.js';
import { inColumns, shown } from '../text.js';
import { readPredictions } from './predictions.js';
import { checkDistinct } from './truth.js';

interface Options {
  readonly id: string;
  readonly truth?: string;
  readonly target?: string;
  readonly positive?: string;
  readonly seed: number;
}

const run: Run<Options> = async (tools, [a = '', b = ''], options) => {
  const truth = await truthOf(tools, options);
  const files = [
    { file: a, bytes: await tools.bytes(a) },
    { file: b, bytes: await tools.bytes(b) },
  ] as const;
  const tables = truth ? [] : files.map(({ file, bytes }) => readCsv(bytes, { file }).table);
  const [first] = tables;
  const identifiers = truth?.identifiers ?? (first ? identifiersOf(first, options.id, a) : []);
  const task = truth ? suggestTask(truth.target) : taskOf(tables);
  const labels = task === 'regression' ? [] : truth ? labelsOf(truth.target).labels : labelsIn(tables);
  if (options.positive !== undefined && !labels.includes(options.positive))
    throw usage(`--positive is one of ${labels.map((label) => `“${label}”`).join(' and ')}.`, 'positive');
  const positive = task === 'binary' ? (options.positive ?? labels.at(-1) ?? null) : null;
  const needs = task === 'regression' ? 'numbers' : 'labels';
  const rules = { identifier: options.id, identifiers, task, labels, positive, needs } as const;
  const [sideA, sideB] = files.map(({ file, bytes }) => readPredictions(bytes, file, rules));
  if (!sideA || !sideB) throw new TypeError('two files were read');
  return compared(sideA, sideB, {
    labels,
    positive,
    identifiers,
    truth: truth?.target ?? null,
    seed: options.seed,
  });
};

interface Context {
  readonly labels: readonly string[];
  readonly positive: string | null;
  readonly identifiers: readonly string[];
  readonly truth: Column | null;
  readonly seed: number;
}

function compared(first: Predictions, second: Predictions, context: Context) {
  const { labels, positive, identifiers, truth, seed } = context;
  const rowOf = (row: number, said: (side: Predictions) => string | number) => ({
    id: identifiers[row],
    a: said(first),
    b: said(second),
    truth: truth ? cellText(truth, row) : null,
  });
  if (first.kind === 'numbers' && second.kind === 'numbers') {
    const numbers = truth?.kind === 'number' ? truth.values : null;
    const found = compareNumbers(first.predicted, second.predicted, numbers, seed);
    const differs = Array.from(found.differs, (row) =>
      rowOf(row, (side) => (side.kind === 'numbers' ? (side.predicted[row] ?? NaN) : NaN)),
    );
    const { n, agreement, rmsDifference, largestDifference, rmse, mae } = found;
    return {
      json: {
        n,
        agreement,
        differs,
        rms_difference: rmsDifference,
        largest_difference: largestDifference,
        tests: { rmse_difference: rmse, mae_difference: mae },
      },
      text: [
        `${n} rows; ${differs.length} differ, by ${shown(rmsDifference)} (root mean square), at most ${shown(largestDifference)}`,
        ...[['rmse', rmse] as const, ['mae', mae] as const].flatMap(([key, difference]) =>
          difference
            ? [
                `${key} of A less that of B: ${shown(difference.difference)} (${shown(difference.low)} to ${shown(difference.high)}, bootstrap)`,
              ]
            : [],
        ),
      ].join('\n'),
    };
  }
  if (first.kind !== 'labels' || second.kind !== 'labels')
    throw new TypeError('both files were read by the same rules');
  const code = positive === null ? null : labels.indexOf(positive);
  const found = compareLabels(
    { ...first, labels, positive: code },
    { ...second, labels, positive: code },
    truth ? labelsOf(truth).codes : null,
  );
  const differs = Array.from(found.differs, (row) =>
    rowOf(row, (side) => (side.kind === 'labels' ? (labels[side.predicted[row] ?? -1] ?? '') : '')),
  );
  const { n, agreement, confused, mcnemar, delong } = found;
  return {
    json: { n, agreement, differs, confused, tests: { mcnemar, delong } },
    text: [
      `${n} rows; both predict the same for ${shown(100 * agreement)} %`,
      ...(confused.length > 0
        ? [
            inColumns(
              ['A', 'B', 'rows'],
              confused.slice(0, 10).map((pair) => [pair.first, pair.second, String(pair.rows)]),
            ),
          ]
        : []),
      ...(mcnemar
        ? [
            `Only A right: ${mcnemar.onlyFirst}, only B right: ${mcnemar.onlySecond} (McNemar’s exact test, p ${shown(mcnemar.p)})`,
          ]
        : []),
      ...(delong
        ? [
            `Area of A ${shown(delong.first)}, of B ${shown(delong.second)} (DeLong’s test, z ${shown(delong.z)}, p ${shown(delong.p)})`,
          ]
        : []),
    ].join('\n'),
  };
}

async function truthOf(tools: Tools, { truth, target, id }: Options) {
  if ((truth === undefined) !== (target === undefined))
    throw usage('--truth and --target are given together: the file of answers and its column.', 'truth');
  if (truth === undefined || target === undefined) return null;
  const { table } = await tools.table(truth, { only: [id, target] });
  return { target: columnNamed(table, target), identifiers: identifiersOf(table, id, truth) };
}

function identifiersOf(table: Table, id: string, file: string): string[] {
  rowNames(table, id);
  const column = columnNamed(table, id);
  const identifiers = cellTexts(column);
  checkDistinct(identifiers, column, file);
  return identifiers;
}

/** Numbers where both files predict numbers of many values; classes otherwise. */
function taskOf(tables: readonly Table[]): Task {
  const predicted = tables.map((table) => table.columns.find((column) => column.name === 'prediction'));
  const isNumeric = predicted.every((column) => column !== undefined && suggestTask(column) === 'regression');
  if (isNumeric) return 'regression';
  return labelsIn(tables).length === 2 ? 'binary' : 'multiclass';
}

/** The labels that stand in either file: as predictions, or as columns of probabilities. */
function labelsIn(tables: readonly Table[]): string[] {
  const labels = new Set<string>();
  for (const table of tables) {
    for (const column of table.columns) {
      if (column.name.startsWith('p:')) labels.add(column.name.slice(2));
      if (column.name === 'prediction') for (const label of labelsOf(column).labels) labels.add(label);
    }
  }
  if (labels.size < 1)
    throw new SieveError(
      'predictions',
      'Neither file says which classes there are: there is no column “prediction”, and none “p:LABEL”.',
    );
  return sortLabels(labels);
}

export const addCompare: AddCommand = (program, start) => {
  program
    .command('compare')
    .description('Compare two files of predictions row by row.')
    .argument('<a>', 'CSV with the identifier and predictions')
    .argument('<b>', 'another one for the same rows')
    .requiredOption('--id <column>', 'names the rows in all files')
    .option('--truth <file>', 'the table with the answers, for paired tests')
    .option('--target <column>', 'the column of answers')
    .option('--positive <label>', 'of a binary task; the last in label order where left out')
    .option('--seed <n>', 'of the bootstrap', numberOption('seed'), 0)
    .action(start(run));
};
