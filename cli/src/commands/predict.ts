import { cellTexts, columnNamed } from '@modest-sieve/core/data';
import type { ModelPredictions } from '@modest-sieve/core/model-files';
import { usage, type AddCommand, type Run } from '../command.js';

interface Options {
  readonly model: string;
  readonly data: string;
  readonly id?: string;
  readonly link?: string;
  readonly positive?: string;
  readonly negative?: string;
}

const LINKS = ['identity', 'logit', 'log'] as const;

const run: Run<Options> = async (tools, _, { model: file, data, id, link: named, positive, negative }) => {
  const link = LINKS.find((one) => one === named);
  if (named !== undefined && link === undefined)
    throw usage(`--link is one of ${LINKS.join(', ')}, not “${named}”.`, 'link');
  const { columnsFor, finiteShare, predictionsCsv, readModel } =
    await import('@modest-sieve/core/model-files');
  const { table } = await tools.table(data);
  const columns = table.columns.map(({ name }) => name).filter((name) => name !== id);
  const model = readModel(await tools.bytes(file), file, {
    columns,
    ...(link === undefined ? {} : { link }),
    ...(positive === undefined ? {} : { positive }),
    ...(negative === undefined ? {} : { negative }),
  });
  const predictions = await model.predict(table, columnsFor(model.inputs, columns));
  for (const { row, message } of predictions.problems)
    tools.say(`${data}, row ${row + 1} has no prediction: ${message}.`);
  const identifiers =
    id === undefined
      ? Array.from({ length: table.rowCount }, (_value, row) => String(row))
      : cellTexts(columnNamed(table, id));
  const { format, outline, inputs } = model;
  return {
    json: {
      model: { format, outline, inputs },
      predictions: recordsOf(predictions, identifiers, finiteShare),
    },
    text: predictionsCsv(predictions, id ?? 'row', identifiers),
    holds: predictions.problems.length === 0,
  };
};

const recordsOf = (
  { values, probabilities }: ModelPredictions,
  identifiers: readonly string[],
  finite: (value: number | undefined) => number | null,
) =>
  identifiers.map((id, row) => ({
    id,
    prediction: values[row] ?? null,
    ...(probabilities
      ? {
          p: Object.fromEntries(
            probabilities.labels.map((label, i) => [label, finite(probabilities.values[i]?.[row])]),
          ),
        }
      : {}),
  }));

export const addPredict: AddCommand = (program, start) => {
  program
    .command('predict')
    .description(
      'predict the rows of a table with a model: ONNX, PMML, a table of coefficients, or JSON of sieve fit',
    )
    .requiredOption('--model <file>', 'the model: .onnx, .pmml, .csv (columns term and estimate) or .json')
    .requiredOption('--data <file>', 'the rows to predict')
    .option('--id <column>', 'column that names the rows; by default they are counted from 0')
    .option('--link <name>', 'of a table of coefficients: identity, logit or log')
    .option('--positive <label>', 'the class whose probability a logit gives')
    .option('--negative <label>', 'the other class')
    .action(start(run));
};
