import { SieveError } from '@modest-sieve/core/foundation';
import { columnNamed, isMissing, type Table } from '@modest-sieve/core/data';
import { fitModel, modelOf, predictRows, targetOf } from '@modest-sieve/core/models';
import { diagnoseResiduals, influence, varianceInflation } from '@modest-sieve/core/evaluation';
import { usage, type AddCommand, type Run } from '../command.js';
import { inColumns, shown } from '../text.js';

interface Options {
  readonly target: string;
  readonly features?: string;
}

const run: Run<Options> = async (tools, [file = ''], { target, features }) => {
  const { table } = await tools.table(file);
  if (columnNamed(table, target).kind !== 'number')
    throw new SieveError('target', `${target} holds no numbers, so it is no target of a regression.`, {
      field: target,
    });
  const names = namesOf(table, target, features);
  const chosen = [target, ...names].map((name) => columnNamed(table, name));
  const rows = Int32Array.from({ length: table.rowCount }, (_, row) => row).filter((row) =>
    chosen.every((column) => !isMissing(column, row)),
  );
  if (rows.length < table.rowCount)
    tools.say(`${table.rowCount - rows.length} rows with a missing cell are left out.`);
  if (rows.length <= names.length + 1)
    throw new SieveError(
      'too-few-rows',
      `${file}: ${rows.length} complete rows are too few for ${names.length} features.`,
    );
  const [y = new Float64Array(), ...columns] = chosen.map((column) => numbersOf(column, rows));
  const fitted = fitModel({
    table,
    model: modelOf('linear'),
    task: 'regression',
    targetName: target,
    group: null,
    target: targetOf(table, { target, task: 'regression', positive: null }),
    features: names,
    rows,
    weights: null,
    seed: 0,
  });
  fitted.warnings.forEach((warning) => tools.say(warning));
  const [predicted = new Float64Array()] = predictRows(fitted, table, rows);
  const residuals = y.map((value, i) => value - (predicted[i] ?? 0));
  const found = diagnoseResiduals(residuals, columns);
  const vif = varianceInflation(columns).map((value, c) => ({ column: names[c] ?? '', vif: value }));
  const { leverage, cooks } = influence(columns, y);
  return {
    json: {
      target,
      rows: rows.length,
      vif,
      residuals: { mean: found.mean, sd: found.sd },
      breusch_pagan: found.breuschPagan,
      durbin_watson: found.durbinWatson,
      acf: found.autocorrelation?.values ?? null,
      acf_band: found.autocorrelation?.band ?? null,
      jarque_bera: found.jarqueBera,
      leverage: Array.from(leverage),
      cooks: Array.from(cooks),
    },
    text: [
      inColumns(
        ['column', 'vif'],
        vif.map((one) => [one.column, shown(one.vif)]),
      ),
      `Breusch–Pagan ${shown(found.breuschPagan?.lm)}, p ${shown(found.breuschPagan?.p)}`,
      `Durbin–Watson ${shown(found.durbinWatson)}`,
      `Jarque–Bera ${shown(found.jarqueBera?.statistic)}, p ${shown(found.jarqueBera?.p)}`,
      `residuals: mean ${shown(found.mean)}, deviation ${shown(found.sd)}`,
    ].join('\n'),
  };
};

/** The features: those that are named, or all other columns of numbers. @throws SieveError `usage` */
function namesOf(table: Table, target: string, features: string | undefined): string[] {
  const given = features?.split(',').map((name) => columnNamed(table, name.trim()));
  for (const column of given ?? [])
    if (column.kind !== 'number')
      throw usage(`${column.name} holds no numbers: a regression is diagnosed on numbers alone.`, 'features');
  const names = (given ?? table.columns.filter(({ kind }) => kind === 'number')).map(({ name }) => name);
  return names.filter((name) => name !== target);
}

function numbersOf(column: ReturnType<typeof columnNamed>, rows: Int32Array): Float64Array {
  const values = column.kind === 'number' ? column.values : new Float64Array();
  return Float64Array.from(rows, (row) => values[row] ?? NaN);
}

export const addDiagnose: AddCommand = (program, start) => {
  program
    .command('diagnose')
    .description('Look at the residuals of a linear regression.')
    .argument('<file>', 'the table; - is CSV on standard input')
    .requiredOption('--target <column>', 'what is predicted')
    .option('--features <columns>', 'columns of numbers, apart by commas; else all other numbers')
    .action(start(run));
};
