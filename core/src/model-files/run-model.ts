import { closest } from 'fastest-levenshtein';
import { allHold, check, cut, type Check } from '../check/check.js';
import type { Predictions } from '../check/reader.js';
import { SieveError } from '../errors.js';
import { at, counted, indices } from '../numbers.js';
import { SUM_TOLERANCE } from '../check/file-checks.js';
import { columnField, type ModelReport, type ModelRun, type RowsRun } from '../questions/model-run.js';
import type { ModelRules } from '../questions/rules.js';
import { selectRows, type Table } from '../table/table.js';
import { proposedColumns } from './columns.js';
import type { ModelFile, ModelPredictions } from './model-file.js';
import { readModel } from './read-model.js';

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

/** Rows that are predicted twice, to see whether both runs agree. */
const TWICE = 500;
/** Relative difference of two runs of one model: sums may be taken in another order. */
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
 * @param onTraining told what was found; the held-out rows are looked at when it has heard
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
  const report: ModelReport = {
    format: file.format,
    outline: file.outline,
    size: bytes.length,
    inputs: file.inputs.map((input, i) => ({ name: input.name, column: columns[i] ?? null })),
    picture: file.picture(),
  };
  const inputs = inputsCheck(report, rules);
  if (inputs.outcome === 'fails') return { ...nothing, checks: [loads, inputs], report };
  const columnOf = columnsBy(report);
  const own = await predictionsOn(file, training, columnOf, rules, without);
  const checks = [loads, inputs, ...own.checks];
  if (own.run && own.said && allHold(checks))
    checks.push(await repeatCheck(file, training, columnOf, own.said));
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

const columnsBy = ({ inputs }: ModelReport) => {
  const byName = new Map(inputs.map(({ name, column }) => [name, column ?? name]));
  return (input: string) => byName.get(input) ?? input;
};

/** Whether every input has a column, and none that may not be used. */
function inputsCheck({ inputs }: ModelReport, { columns, forbidden }: ModelRules): Check {
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
  readonly said: ModelPredictions | null;
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
    return { checks: [failed('runs', messageOf(error))], run: null, said: null };
  }
  const { checks, ...run } = readPredictions(said, rules, without);
  return { checks, run: allHold(checks) ? { ...run, problem: null } : null, said };
}

/** More rows without a prediction than this share are a fault of the model. */
const MOST_WITHOUT = 0.5;

function readPredictions(
  said: ModelPredictions,
  rules: ModelRules,
  without: number,
): { checks: Check[]; predictions: Predictions | null; without: Uint8Array } {
  const { values, problems } = said;
  const none = Uint8Array.from(values, (value) => (value === null ? 1 : 0));
  const missing = none.reduce((sum, one) => sum + one, 0);
  const examples = problems.map(({ row, message }) => ({
    line: null,
    column: null,
    text: `row ${row + 1}: ${message}`,
  }));
  const isMost = missing > MOST_WITHOUT * values.length;
  const runs =
    missing === 0
      ? check('runs', 'holds', 'Every row has a prediction', { measured: counted(values.length, 'row') })
      : check(
          'runs',
          isMost ? 'fails' : 'unsure',
          isMost
            ? 'The model has no prediction for most rows.'
            : 'Some rows have no prediction; such rows count as the commonest class or the mean of the training rows.',
          { measured: counted(missing, 'row'), expected: 'a prediction for every row', examples },
        );
  if (runs.outcome === 'fails') return { checks: [runs], predictions: null, without: none };
  if (rules.task === 'regression') {
    const word = values.find((value) => typeof value === 'string');
    if (word !== undefined || said.probabilities)
      return {
        checks: [
          runs,
          failed('numbers', 'The model gives classes, and a number is asked for.', 'a number for each row'),
        ],
        predictions: null,
        without: none,
      };
    const predicted = Float64Array.from(values, (value) => (typeof value === 'number' ? value : without));
    return { checks: [runs], predictions: { kind: 'numbers', predicted }, without: none };
  }
  const labels = labelsCheck(said, rules);
  const predicted = Int32Array.from(values, (value) =>
    value === null ? without : Math.max(0, placeIn(rules.labels, String(value))),
  );
  const shares = sharesOf(said, rules, none, without);
  const probabilities = probabilitiesCheck(shares, rules);
  return {
    checks: [runs, labels, ...(probabilities ? [probabilities] : [])],
    predictions: {
      kind: 'labels',
      predicted,
      // Of 32 bits they may be beyond their bounds by a rounding.
      probabilities: shares?.map((of) => of.map((share) => Math.min(1, Math.max(0, share)))) ?? null,
      derived: false,
    },
    without: none,
  };
}

/** The place of a label, as it is written or as the same number: some programs write 1.0 for 1; −1 for none. */
function placeIn(labels: readonly string[], label: string): number {
  const place = labels.indexOf(label);
  if (place >= 0 || label.trim() === '' || Number.isNaN(Number(label))) return place;
  return labels.findIndex((one) => one.trim() !== '' && Number(one) === Number(label));
}

/** Whether every label is one of the target's. */
function labelsCheck({ values }: ModelPredictions, { labels }: ModelRules): Check {
  const foreign = [...new Set(values.filter((value) => value !== null).map(String))].filter(
    (label) => placeIn(labels, label) < 0,
  );
  const expected = labels.join(', ');
  if (foreign.length === 0)
    return check('labels', 'holds', 'Every prediction is a label of the target', { expected });
  const isNumber = values.some((value) => typeof value === 'number' && !Number.isInteger(value));
  return check(
    'labels',
    'fails',
    isNumber
      ? 'The model gives numbers, and labels are asked for.'
      : 'The model gives labels that the target does not have.',
    {
      measured: counted(foreign.length, 'other label'),
      expected,
      examples: foreign.map((label) => ({
        line: null,
        column: null,
        text: isNumber ? label : `“${label}”; the nearest is “${closest(label, [...labels])}”`,
      })),
    },
  );
}

/** Probabilities in the order of the rules' labels; null where the model gives none of them all. */
function sharesOf(
  { probabilities }: ModelPredictions,
  { labels }: ModelRules,
  none: Uint8Array,
  without: number,
): Float64Array[] | null {
  if (!probabilities) return null;
  const codes = probabilities.labels.map((label) => placeIn(labels, label));
  const places = labels.map((_, code) => codes.indexOf(code));
  const isForeign = codes.includes(-1);
  // A class that the model never saw has no chance.
  if (isForeign || places.every((place) => place < 0)) return null;
  return places.map((place, code) =>
    Float64Array.from(none, (isNone, row) => {
      if (isNone === 1) return code === without ? 1 : 0;
      return place < 0 ? 0 : (probabilities.values[place]?.[row] ?? NaN);
    }),
  );
}

function probabilitiesCheck(
  shares: readonly Float64Array[] | null,
  { needs, labels }: ModelRules,
): Check | null {
  if (!shares)
    return needs === 'probabilities'
      ? failed(
          'probabilities',
          'The model gives no probability of each class, which the metric needs.',
          `probabilities of ${labels.join(', ')}`,
        )
      : null;
  const rows = at(shares, 0).length;
  for (let row = 0; row < rows; row++) {
    const own = shares.map((of) => of[row] ?? NaN);
    const sum = own.reduce((a, b) => a + b, 0);
    const outside = own.find((share) => !(share >= -SUM_TOLERANCE && share <= 1 + SUM_TOLERANCE));
    if (outside !== undefined || Math.abs(sum - 1) > SUM_TOLERANCE)
      return check(
        'probabilities',
        'fails',
        'Probabilities lie from 0 to 1 and sum to 1; those of the model do not.',
        {
          examples: [{ line: null, column: null, text: `row ${row + 1}: ${own.join(', ')}` }],
        },
      );
  }
  return check('probabilities', 'holds', 'Probabilities lie from 0 to 1 and sum to 1');
}

/** Whether a second run says the same. */
async function repeatCheck(
  file: ModelFile,
  training: Table,
  columnOf: (input: string) => string,
  first: ModelPredictions,
): Promise<Check> {
  const rows = indices(Math.min(TWICE, training.rowCount));
  const names = training.columns.map(({ name }) => name);
  const again = await file.predict(selectRows(training, rows, names), columnOf);
  const same = (a: number | string | null | undefined, b: number | string | null | undefined) =>
    typeof a === 'number' && typeof b === 'number'
      ? Math.abs(a - b) <= SAME * Math.max(1, Math.abs(a))
      : a === b;
  const differ = Array.from(rows).filter(
    (row) =>
      !same(first.values[row], again.values[row]) ||
      (first.probabilities?.values ?? []).some(
        (own, i) => !same(finite(own[row]), finite(again.probabilities?.values[i]?.[row])),
      ),
  );
  return differ.length === 0
    ? check('repeats', 'holds', 'Two runs agree')
    : check(
        'repeats',
        'fails',
        'Two runs of the model on the same rows differ: it draws at random, or a row’s prediction hangs on the others.',
        {
          measured: counted(differ.length, 'row'),
          expected: 'the same predictions each time',
        },
      );
}

const finite = (value: number | undefined) => (value !== undefined && Number.isFinite(value) ? value : null);
