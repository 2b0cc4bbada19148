import {
  assignmentOf,
  columnNamed,
  foldCsv,
  FOLD_METHODS,
  labelsOf,
  makeFolds,
  rowNames,
  strataOf,
  suggestTask,
  testRows,
  type FoldMethodName,
  type FoldPlan,
  type Table,
} from '@modest-sieve/core';
import { numberOption, usage, type AddCommand, type Run } from '../command.js';
import { inColumns } from '../text.js';

interface Options {
  readonly k?: number;
  readonly method?: string;
  readonly stratify?: string;
  readonly group?: string;
  readonly repeats?: number;
  readonly time?: string;
  readonly window?: number;
  readonly gap?: number;
  readonly id?: string;
  readonly seed: number;
  readonly assign?: string;
}

const run: Run<Options> = async (tools, [file = ''], options) => {
  const plan = planOf(options);
  const { table } = await tools.table(file);
  const names = rowNames(table, options.id);
  const folds = makeFolds(table, plan);
  folds.warnings.forEach((warning) => tools.say(warning));
  const classes = classesOf(table, options.stratify);
  const listed = folds.tests.flatMap((_, repeat) =>
    Array.from({ length: folds.count }, (__, fold) => {
      const rows = testRows(folds, repeat, fold);
      const counts = new Map(classes?.labels.map((label) => [label, 0]));
      for (const row of rows) {
        const label = classes?.labels[classes.codes[row] ?? -1];
        if (label !== undefined) counts.set(label, (counts.get(label) ?? 0) + 1);
      }
      return {
        repeat: repeat + 1,
        fold: fold + 1,
        rows: rows.length,
        training: folds.training(repeat, fold).length,
        classes: Object.fromEntries(counts),
      };
    }),
  );
  return {
    json: { method: folds.method, seed: plan.seed, folds: listed, warnings: folds.warnings },
    text: [
      `${folds.method}, seed ${plan.seed}`,
      inColumns(
        ['repeat', 'fold', 'rows', 'training', 'classes'],
        listed.slice(0, 100).map(({ repeat, fold, rows, training, classes: counts }) => [
          String(repeat),
          String(fold),
          String(rows),
          String(training),
          Object.entries(counts)
            .slice(0, 10)
            .map(([label, n]) => `${label} ${n}`)
            .join(', '),
        ]),
      ),
      ...(listed.length > 100 ? [`… and ${listed.length - 100} more`] : []),
    ].join('\n'),
    files:
      options.assign === undefined
        ? []
        : [{ path: options.assign, content: foldCsv(names, assignmentOf(folds)) }],
  };
};

function planOf(options: Options): FoldPlan {
  const { k, stratify, group, repeats, time, window, gap, seed } = options;
  const method = options.method ?? methodFor(options);
  if (!isMethod(method))
    throw usage(
      `There is no method “${method}”; there are ${Object.keys(FOLD_METHODS).join(', ')}.`,
      'method',
    );
  return {
    method,
    seed,
    ...(k === undefined ? {} : { k }),
    ...(repeats === undefined ? {} : { repeats }),
    ...(stratify === undefined ? {} : { stratify }),
    ...(group === undefined ? {} : { group }),
    ...(time === undefined ? {} : { time }),
    ...(window === undefined ? {} : { window }),
    ...(gap === undefined ? {} : { gap }),
  };
}

function methodFor({ stratify, group, time, window }: Options): FoldMethodName {
  if (time !== undefined) return window === undefined ? 'expanding' : 'sliding';
  if (group !== undefined) return stratify === undefined ? 'grouped' : 'stratified-grouped';
  return stratify === undefined ? 'k-fold' : 'stratified';
}

const isMethod = (name: string): name is FoldMethodName => Object.hasOwn(FOLD_METHODS, name);

function classesOf(table: Table, stratify: string | undefined) {
  if (stratify === undefined) return null;
  const column = columnNamed(table, stratify);
  return suggestTask(column) === 'regression' ? strataOf(column) : labelsOf(column);
}

export const addFolds: AddCommand = (program, start) => {
  program
    .command('folds')
    .description('Make folds for cross-validation.')
    .argument('<file>', 'the table; - is CSV on standard input')
    .option('--k <n>', 'number of folds', numberOption('k'))
    .option(
      '--method <name>',
      `one of ${Object.keys(FOLD_METHODS).join(', ')}; follows from the rest where left out`,
    )
    .option('--stratify <column>', 'equal shares of its values in every fold')
    .option('--group <column>', 'its values are never parted')
    .option('--repeats <n>', 'draw everything anew so often', numberOption('repeats'))
    .option('--time <column>', 'folds follow one another in its order')
    .option('--window <n>', 'train on so much time before a fold, not on all of it', numberOption('window'))
    .option('--gap <n>', 'time left out between training and testing', numberOption('gap'))
    .option('--id <column>', 'names the rows')
    .requiredOption('--seed <n>', 'the same seed gives the same folds', numberOption('seed'))
    .option('--assign <file>', 'CSV with the fold of each row')
    .action(start(run));
};
