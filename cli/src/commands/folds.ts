import { columnNamed, labelsOf, rowNames, suggestTask, type Table } from '@modest-sieve/core/data';
import {
  assignmentOf,
  foldCsv,
  FOLD_METHODS,
  FOLD_SETTINGS,
  makeFolds,
  strataOf,
  testRows,
  type FoldPlan,
} from '@modest-sieve/core/splitting';
import { numberOption, type AddCommand, type Run } from '../command.js';
import { addSettings, settingsOf } from '../settings.js';
import { inColumns } from '../text.js';

interface Options {
  readonly stratify?: string;
  readonly id?: string;
  readonly seed: number;
  readonly assign?: string;
}

const run: Run<Options> = async (tools, [file = ''], options) => {
  const plan: FoldPlan = { ...settingsOf({ ...options }, FOLD_METHODS, FOLD_SETTINGS), seed: options.seed };
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

function classesOf(table: Table, stratify: string | undefined) {
  if (stratify === undefined) return null;
  const column = columnNamed(table, stratify);
  return suggestTask(column) === 'regression' ? strataOf(column) : labelsOf(column);
}

export const addFolds: AddCommand = (program, start) => {
  const command = program
    .command('folds')
    .description('Make folds for cross-validation.')
    .argument('<file>', 'the table; - is CSV on standard input');
  addSettings(command, FOLD_METHODS, FOLD_SETTINGS)
    .option('--id <column>', 'names the rows')
    .requiredOption('--seed <n>', 'the same seed gives the same folds', numberOption('seed'))
    .option('--assign <file>', 'CSV with the fold of each row')
    .action(start(run));
};
