import { allHold, check, cut, type Check } from '../../foundation/check.js';
import { SieveError } from '../../foundation/errors.js';
import { at, counted, indices } from '../../foundation/numbers.js';
import {
  columnField,
  type ModelReport,
  type ModelRun,
  type RowsRun,
} from '../questions/contract/model-run.js';
import type { ModelRules } from '../questions/model/question.js';
import { selectRows, type Table } from '../../data/table/table.js';
import { proposedColumns } from './columns.js';
import type { ModelFile, ModelPredictions } from './model-file.js';
import { finiteShare } from './predictions-csv.js';
import { readModel } from './read-model.js';
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
/** Rows that are predicted twice, to see whether both runs agree. */
const TWICE = 500;
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
  const nothing = { report: null, training: null, heldOut: null };
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
  const found: ModelRun = { checks, report, training: own.run, heldOut: null };
  if (!own.run || !allHold(checks)) return { ...found, training: null };
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

function readingOptions({ columns, labels, positive, link }: ModelRules) {
  const negative = labels.find((label) => label !== positive);
  return {
    columns: columns.map(({ name }) => name),
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

/** The column for each input: the one that was chosen, or else the proposed one. */
function chosenColumns(
  { inputs }: ModelFile,
  { columns }: ModelRules,
  fields: Readonly<Record<string, string>>,
): (string | null)[] {
  const proposed = proposedColumns(
    inputs,
    columns.map(({ name }) => name),
  );
  return inputs.map(({ name }, i) => fields[columnField(name)] ?? proposed[i] ?? null);
}

type Inputs = ModelReport['inputs'];

const columnsBy = (inputs: Inputs) => {
  const byName = new Map(inputs.map(({ name, column }) => [name, column ?? name]));
  return (input: string) => byName.get(input) ?? input;
};

/** Whether every input has a column, and none that may not be used. */
function inputsCheck(inputs: Inputs, { columns, forbidden }: ModelRules): Check {
  const allowed = new Set(columns.map(({ name }) => name));
  const wrong = inputs.flatMap(({ name, column }) => {
    const not = [name, column].find((one) => one !== null && forbidden.includes(one));
    if (not !== undefined) return [`“${not}” may not be used`];
    if (column === null) return [`no column is named for the input “${name}”`];
    return allowed.has(column) ? [] : [`“${column}” is no column of the pack that may be used`];
  });
  const expected = `some of ${columns.map(({ name }) => name).join(', ')}`;
  if (wrong.length > 0)
    return check(
      'inputs',
      'fails',
      `The model takes what it may not, or what there is not: ${at(wrong, 0)}.`,
      {
        measured: counted(inputs.length, 'input'),
        expected,
        examples: wrong.map((text) => ({ line: null, column: null, text })),
      },
    );
  return check('inputs', 'holds', 'Every input is a column that it may use', {
    measured: counted(inputs.length, 'input'),
  });
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

/** Whether a second run says the same. */
async function repeatCheck(
  file: ModelFile,
  training: Table,
  columnOf: (input: string) => string,
): Promise<Check> {
  const rows = indices(Math.min(TWICE, training.rowCount));
  const names = training.columns.map(({ name }) => name);
  const table = selectRows(training, rows, names);
  // Both runs are of the same rows: of others beside them a sum may be taken in another order.
  const first = await file.predict(table, columnOf);
  const again = await file.predict(table, columnOf);
  const same = (a: number | string | null | undefined, b: number | string | null | undefined) =>
    typeof a === 'number' && typeof b === 'number'
      ? Math.abs(a - b) <= SAME * Math.max(1, Math.abs(a))
      : a === b;
  const differ = Array.from(rows).filter(
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
