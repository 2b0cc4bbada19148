import { allHold, check, cut, type Check } from '../../foundation/check.js';
import { SieveError } from '../../foundation/errors.js';
import { at, counted, indices } from '../../foundation/numbers.js';
import {
  type ModelReport,
  type ModelRun,
  type OtherRun,
  type RowsRun,
} from '../questions/contract/model-run.js';
import type { ModelRules } from '../questions/model/question.js';
import { selectRows, type Table } from '../../data/table/table.js';
import { chosenColumns, columnsBy, inputsCheck } from './chosen-columns.js';
import { otherOrders } from './column-orders.js';
import type { ModelFile, ModelPredictions } from './model-file.js';
import { finiteShare } from './predictions-csv.js';
import { readModel } from './read-model.js';
import { scaled } from './scaled-columns.js';
import { readPredictions } from './read-predictions.js';

/** A model that is to be run. */
export interface ModelRequest {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** What was chosen beside it: the column for an input, under `column:INPUT`, where that is not the proposed one. */
  readonly fields: Readonly<Record<string, string>>;
  readonly rules: ModelRules;
  /** Rows that its student has, with a column for each of the rules. */
  readonly training: Table;
  /** Rows that its student has not; null where it is only tried. */
  readonly heldOut: Table | null;
  /** What a row without a prediction is taken to say: the code of a class, or a number. */
  readonly without: number;
}

/** Inputs that a report names at most: whatever a file has, a receipt stays small. */
const MOST_INPUTS = 200;
/** Rows that are predicted twice, to see whether both runs agree, and in other ways. */
const FEW = 500;
/** Milliseconds after which no other way of giving it rows is looked at: a slow model keeps its time for the held-out rows. */
const OTHERWISE_END = 1000;
/** Relative difference up to which two runs agree. */
const SAME = 1e-6;

const FORMATS: Readonly<Record<ModelFile['format'], string>> = {
  onnx: 'ONNX',
  pmml: 'PMML',
  coefficients: 'a table of coefficients',
  fitted: 'JSON of this program',
};

const failed = (id: string, message: string, expected?: string): Check =>
  check(id, 'fails', cut(message), expected === undefined ? {} : { expected });

/**
 * Reads a model, checks it on rows that its student has, and runs it on the held-out rows. A file that is refused is
 * refused by what its student could find out alone: nothing that happens on held-out rows is among the checks.
 *
 * @param onTraining called with what was found, and awaited before the held-out rows are looked at
 */
export async function runModel(
  request: ModelRequest,
  onTraining: (run: ModelRun) => Promise<void> = () => Promise.resolve(),
): Promise<ModelRun> {
  const { name, bytes, fields, rules, training, heldOut, without } = request;
  const nothing = { report: null, training: null, otherwise: [], heldOut: null };
  let file: ModelFile;
  try {
    file = readModel(bytes, name, readingOptions(rules));
  } catch (error) {
    return { checks: [failed('loads', messageOf(error))], ...nothing };
  }
  const loads = check('loads', 'holds', `${name} is read as ${FORMATS[file.format]}`, {
    measured: file.outline,
  });
  if (file.format === 'fitted' || (rules.takes !== 'any' && rules.takes !== file.format))
    return {
      checks: [
        failed(
          'format',
          `${name} is ${FORMATS[file.format]}, which this question does not take.`,
          rules.takes === 'any' ? 'ONNX, PMML or a table of coefficients' : FORMATS[rules.takes],
        ),
      ],
      ...nothing,
    };
  const columns = chosenColumns(file, rules, fields);
  const all = file.inputs.map(({ name: input }, i) => ({ name: input, column: columns[i] ?? null }));
  const report: ModelReport = {
    format: file.format,
    outline: cut(file.outline),
    size: bytes.length,
    inputs: all.slice(0, MOST_INPUTS).map((input) => ({ ...input, name: cut(input.name) })),
    moreInputs: Math.max(0, all.length - MOST_INPUTS),
    picture: file.picture(),
  };
  const inputs = inputsCheck(all, rules);
  if (inputs.outcome === 'fails') return { ...nothing, checks: [loads, inputs], report };
  const columnOf = columnsBy(all);
  const own = await predictionsOn(file, training, columnOf, rules, without);
  const checks = [loads, inputs, ...own.checks];
  if (own.run && allHold(checks)) checks.push(await repeatCheck(file, training, columnOf));
  const failing: ModelRun = { ...nothing, checks, report };
  if (!own.run || !allHold(checks)) return failing;
  const otherwise = await predictionsOtherwise(file, all, request);
  const found: ModelRun = { ...failing, training: own.run, otherwise };
  if (!heldOut) return found;
  await onTraining(found);
  const { run, checks: refused } = await predictionsOn(file, heldOut, columnOf, rules, without);
  return {
    ...found,
    heldOut: run ?? {
      predictions: null,
      without: new Uint8Array(heldOut.rowCount),
      problem: refused.find(({ outcome }) => outcome === 'fails')?.message ?? 'the model fails',
    },
  };
}

function readingOptions({ columns, forbidden, labels, positive, link }: ModelRules) {
  const negative = labels.find((label) => label !== positive);
  return {
    columns: columns.map(({ name }) => name),
    forbidden,
    link,
    ...(positive !== null && negative !== undefined ? { positive, negative } : {}),
    ...(labels.length > 0 ? { labels } : {}),
  };
}

/** What went wrong with a file, in a sentence. @throws whatever is no error of the file's */
function messageOf(error: unknown): string {
  if (error instanceof SieveError) return error.message;
  // Too deep, or too large for an array: of the engine, and of nothing but the file.
  if (error instanceof RangeError) return 'The model is nested too deeply, or too large to be read.';
  throw error;
}

interface OnRows {
  readonly checks: readonly Check[];
  /** Null where a check fails. */
  readonly run: RowsRun | null;
}

async function predictionsOn(
  file: ModelFile,
  table: Table,
  columnOf: (input: string) => string,
  rules: ModelRules,
  without: number,
): Promise<OnRows> {
  let said: ModelPredictions;
  try {
    said = await file.predict(table, columnOf);
  } catch (error) {
    return { checks: [failed('runs', messageOf(error))], run: null };
  }
  const { checks, ...run } = readPredictions(said, rules, without);
  return { checks, run: allHold(checks) ? { ...run, problem: null } : null };
}

/** What the model says of the first training rows given in other ways; nothing of one that it cannot run on. */
async function predictionsOtherwise(
  file: ModelFile,
  inputs: ModelReport['inputs'],
  { training, rules, without }: ModelRequest,
): Promise<OtherRun[]> {
  const table = firstRows(training);
  const chosen = inputs.map(({ column }) => column);
  const orders = otherOrders(file.inputs, chosen, rules).map(({ name, columns }) => ({
    ...{ slip: 'columns-in-other-order' as const, way: `its columns ${name}`, table },
    columnOf: columnsBy(inputs.map((input, i) => ({ ...input, column: at(columns, i) }))),
  }));
  // Of classes a model that was not fitted to its end shows the same: `docs/verdicts.md`.
  const scalings = rules.task === 'regression' ? scaled(training, indices(table.rowCount)) : [];
  const ways = scalings.map((one) => ({
    ...{ slip: 'preparation-missing' as const, way: `its numbers ${one.name}`, table: one.table },
    columnOf: columnsBy(inputs),
  }));
  const found: OtherRun[] = [];
  const start = performance.now();
  for (const { slip, way, table: given, columnOf } of [...orders, ...ways]) {
    if (performance.now() - start > OTHERWISE_END) break;
    const { run } = await predictionsOn(file, given, columnOf, rules, without);
    if (run?.predictions) found.push({ slip, way, predictions: run.predictions });
  }
  return found;
}

const firstRows = (table: Table): Table =>
  selectRows(
    table,
    indices(Math.min(FEW, table.rowCount)),
    table.columns.map(({ name }) => name),
  );

/** Whether a second run says the same. */
async function repeatCheck(
  file: ModelFile,
  training: Table,
  columnOf: (input: string) => string,
): Promise<Check> {
  const table = firstRows(training);
  // Both runs are of the same rows: of others beside them a sum may be taken in another order.
  const first = await file.predict(table, columnOf);
  const again = await file.predict(table, columnOf);
  const same = (a: number | string | null | undefined, b: number | string | null | undefined) =>
    typeof a === 'number' && typeof b === 'number'
      ? Math.abs(a - b) <= SAME * Math.max(1, Math.abs(a))
      : a === b;
  const differ = Array.from(indices(table.rowCount)).filter(
    (row) =>
      !same(first.values[row], again.values[row]) ||
      (first.probabilities?.values ?? []).some(
        (own, i) => !same(finiteShare(own[row]), finiteShare(again.probabilities?.values[i]?.[row])),
      ),
  );
  return differ.length === 0
    ? check('repeats', 'holds', 'Two runs agree')
    : check('repeats', 'fails', 'Two runs of the model on the same rows differ: it draws at random.', {
        measured: counted(differ.length, 'row'),
        expected: 'the same predictions each time',
      });
}
