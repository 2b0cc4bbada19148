import { SieveError } from '../foundation/errors.js';
import type { Judged } from '../metrics/judged.js';
import { at } from '../foundation/numbers.js';
import { seededRandom } from '../foundation/random/random.js';
import type { Helpers } from '../foundation/work/work.js';
import type { Plan } from '../data/sentence/sentence.js';
import type { Task } from '../data/table/roles.js';
import { groupCodes } from '../data/table/labels.js';
import { columnNamed, isCoded, takeRows, type Column, type Table } from '../data/table/table.js';
import { chancesOf, likeliest } from './contract/chances.js';
import type { Description } from './contract/description.js';
import type { Explanation } from './contract/explanation.js';
import type { Sample, Training } from './contract/sample.js';
import { explainState, predictState } from './predicted.js';
import type { Predicted, ModelState } from './contract/state.js';
import { sampleFrom } from './contract/part.js';
import { applyRecipe, learnRecipe, type Recipe } from './prepared/recipe.js';
import { targetRows, type Target } from './prepared/target.js';
import { checkModel } from './registry.js';
import { screenedFeatures, type Screening } from './screening/keep.js';

const FITTED_VERSION = 1;

/** A fitted model with all that it takes to predict with it, as plain data: what `--save` writes and `vault` keeps. */
export interface Fitted {
  readonly version: typeof FITTED_VERSION;
  readonly model: Plan;
  readonly task: Task;
  readonly target: string;
  /** Of the classes, in label order; none for numbers. */
  readonly labels: readonly string[];
  readonly positive: number | null;
  readonly recipe: Recipe;
  readonly state: ModelState;
  readonly description: Description;
  readonly warnings: readonly string[];
}

/** What a model is fitted to. */
export interface FitRequest {
  readonly table: Table;
  readonly model: Plan;
  readonly task: Task;
  readonly targetName: string;
  readonly target: Target;
  /** Names of the columns that are predicted from. */
  readonly features: readonly string[];
  /** Which of them are kept, by the training rows; all where there is none. */
  readonly screening?: Screening | null;
  /** The training rows, each as often as it is named. */
  readonly rows: Int32Array;
  /** Of all rows of the table; null for 1 each. */
  readonly weights: Float64Array | null;
  /** Name of the column whose rows belong together; null where each row stands alone. */
  readonly group: string | null;
  readonly seed: number;
  /** Threads that may help; the model is the same with any number of them. */
  readonly helpers?: Helpers;
}

/** Rows of a table as a recipe prepares them. */
export function sampleOf(recipe: Recipe, table: Table, rows: Int32Array): Sample {
  const features = applyRecipe(recipe, table, rows);
  return sampleFrom(features, rows.length);
}

/** Preparation fitted to the rows, and the rows so prepared. */
export interface Ready {
  readonly recipe: Recipe;
  readonly training: Training;
}

/**
 * Learns the preparation from the training rows, the columns that a screening keeps included, and prepares them.
 *
 * @throws SieveError `no-rows`, `weights`, `no-such-column`, `screening`
 */
export function readyFor(request: FitRequest): Ready {
  const { table, screening, rows, target, weights, group, seed, helpers } = request;
  if (rows.length === 0) throw new SieveError('no-rows', 'There is no row to train on.');
  const features = screening
    ? screenedFeatures({ ...request, by: screening.by }, screening.keep)
    : request.features;
  const recipe = learnRecipe(table, features, rows);
  const own = weights && rows.length > 0 ? Float64Array.from(rows, (row) => at(weights, row)) : null;
  if (own && !own.every((weight) => weight >= 0))
    throw new SieveError(
      'weights',
      'A row’s weight is a number from 0; some rows have none, or one below 0.',
    );
  if (own && !own.some((weight) => weight > 0)) throw new SieveError('weights', 'All training rows weigh 0.');
  const training: Training = {
    ...sampleOf(recipe, table, rows),
    target: targetRows(target, rows),
    weights: own,
    groups: () => (group === null ? null : groupCodes(takeRows(columnNamed(table, group), rows))),
    random: seededRandom(seed, 'model'),
    ...(helpers && { helpers }),
  };
  return { recipe, training };
}

/** The weights of a column. @throws SieveError `weights`, `no-such-column` */
export function weightsOf(table: Table, name: string | null): Float64Array | null {
  if (name === null) return null;
  const column = columnNamed(table, name);
  if (isCoded(column) || column.kind !== 'number')
    throw new SieveError('weights', `${name} holds no numbers, so it cannot weigh rows.`, { field: name });
  return column.values;
}

/**
 * Fits a model.
 *
 * @throws SieveError `plan-kind`, `plan-value`, `no-such-column`, `no-rows`, `weights`, `screening`, `one-class`, `model`
 */
export function fitModel(request: FitRequest): Fitted {
  return fittedOf(request, readyFor(request));
}

/** Fits a model to rows that are prepared. */
export function fittedOf(
  { table, model, task, targetName, target }: FitRequest,
  { recipe, training }: Ready,
): Fitted {
  const kind = checkModel(model, task, table.columns);
  const { state, description, warnings } = kind.fit(training, model.values);
  return {
    version: FITTED_VERSION,
    model,
    task,
    target: targetName,
    labels: target.kind === 'classes' ? target.labels : [],
    positive: target.kind === 'classes' ? target.positive : null,
    recipe,
    state,
    description,
    warnings: [...recipe.warnings, ...warnings],
  };
}

/** What a fitted model says of rows of a table. */
export const predictRows = (
  { recipe, state }: Pick<Fitted, 'recipe' | 'state'>,
  table: Table,
  rows: Int32Array,
) => predictState(state, sampleOf(recipe, table, rows));

/** Why a fitted model says what it says of the single row of a table; null where its family has no account of it. */
export function explainRow(
  { recipe, state }: Pick<Fitted, 'recipe' | 'state'>,
  one: Table,
): Explanation | null {
  const rows = Int32Array.of(0);
  const missing = one.columns.map((column): Column =>
    isCoded(column) ? { ...column, codes: Int32Array.of(-1) } : { ...column, values: Float64Array.of(NaN) },
  );
  const typical = { ...one, columns: missing };
  return explainState(state, sampleOf(recipe, one, rows), sampleOf(recipe, typical, rows));
}

/** Predictions beside the truth. A class is the one of the largest probability, the first in label order of equal ones. */
export function judgedBy(target: Target, predicted: Predicted, features: number | null = null): Judged {
  if (target.kind === 'numbers')
    return {
      kind: 'numbers',
      data: { truth: target.values, predicted: at(predicted, 0), weights: null, features },
    };
  const { labels, codes, positive } = target;
  const probabilities = chancesOf(predicted, positive);
  return {
    kind: 'labels',
    data: {
      labels,
      truth: codes,
      predicted: likeliest(probabilities, positive),
      probabilities,
      positive,
      weights: null,
    },
  };
}

/** A fitted model as JSON. */
export const writeFitted = (fitted: Fitted): string =>
  JSON.stringify(fitted, (_, value: unknown) =>
    value instanceof Float64Array || value instanceof Int32Array ? Array.from(value) : value,
  );

/**
 * A fitted model from its JSON.
 *
 * @throws SieveError `fitted` where it is none, or of a version that is not known
 */
export function readFitted(text: string): Fitted {
  const fail = (message: string) => new SieveError('fitted', message);
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw fail('This is no fitted model: it is not JSON.');
  }
  if (typeof read !== 'object' || read === null || !('version' in read))
    throw fail('This is no fitted model: it has no version.');
  if (read.version !== FITTED_VERSION)
    throw fail(`This model is of version ${String(read.version)}; version ${FITTED_VERSION} can be read.`);
  if (!('recipe' in read && 'state' in read))
    throw fail('This is no fitted model: recipe or state is missing.');
  return read as Fitted;
}
