import { fitModel, judgedBy, predictRows } from '../../models/fitted.js';
import { modelOf } from '../../models/registry.js';
import { targetOf, targetRows } from '../../models/prepared/target.js';
import type { Judged } from '../../metrics/judged.js';
import { at } from '../../foundation/numbers.js';
import { isMissing, type Column, type Table } from '../../data/table/table.js';
import { type GainRequest, mean, strongest } from './strength.js';

/** Blocks of judged rows whose mean differences are compared: neighbours resemble one another. */
const CHUNKS = 24;

/** Standard errors by which a block must help: t with 23 degrees of freedom is above 4 once in 3,600. */
const STEPS = 4;

/** How seldom chance alone may put so many chunks above 0: 14 of 14, or 22 of 24. */
const BY_CHANCE = 1 / 10_000;

/** Chunks that must gain, and none lose, where nearly all of the error goes. */
const FEWEST_CHUNKS = 6;

/** Share of the mean size of a difference below which a chunk neither gains nor loses. */
const TIE = 0.1;

/** Share of the error that is left where nearly all of it goes. */
export const NEARLY_NOTHING = 0.1;

/** Share of the error that is left which must go, so that nothing is named which nobody could use. */
const LEAST_GAIN = 0.3;

/** Rows that a model is fitted to and is judged on, and pairs of rows that are alike, at least. */
const FEWEST_ROWS = { fit: 40, judge: 20, twins: 12 };

/** Share of the rows without a gap in the chosen columns from which those with one are left out, as at the end of a series. */
const MOSTLY_COMPLETE = 0.6;

/** What a small model gains by some more columns. */
export interface Gain {
  /** The columns that it used, those that go with the target most first. */
  readonly columns: readonly string[];
  /** Share of the error that is left without them and with them: 1 is guessing, 0 is perfect. */
  readonly without: number;
  readonly with: number;
}

/**
 * Whether some columns predict the target better than the features do: a small tree (for numbers a linear model, too) is
 * fitted to some rows with and without them, and judged on others.
 *
 * @returns `none` where the gain is not beyond chance, and `too few` where there are too few rows to judge it by
 */
export function gainOf(request: GainRequest): Gain | 'none' | 'too few' {
  const { table, roles, base, block } = request;
  const chosen = strongest(block, request);
  if (request.fit.length < FEWEST_ROWS.fit || request.judge.length < FEWEST_ROWS.judge) return 'too few';
  if (chosen.length === 0) return 'none';
  const [fit, judge] = [complete(request.fit, chosen), complete(request.judge, chosen)];
  const wide: Table = { rowCount: table.rowCount, columns: [...table.columns, ...chosen] };
  const names = chosen.map(({ name }) => name);
  const all = [...base, ...names];
  return beyond(
    { table: wide, roles, base, fit, judge },
    (guess) => best([guess, ...errorsOfModels(wide, roles, all, fit, judge)]),
    names,
  );
}

/**
 * Whether the target of a row with the same features predicts better than the features do: where features have few
 * values, rows are alike by chance, and a model of many of them predicts better than one.
 *
 * @param pairs rows that are judged, each with a row whose target students get
 */
export function gainOfTwins(
  request: Omit<GainRequest, 'block' | 'judge'> & { pairs: readonly { row: number; twin: number }[] },
): Gain | 'none' | 'too few' {
  const { table, roles, base, fit, pairs } = request;
  if (fit.length < FEWEST_ROWS.fit || pairs.length < FEWEST_ROWS.twins) return 'too few';
  const judge = Int32Array.from(pairs, ({ row }) => row);
  const target = targetOf(table, roles);
  const having =
    target.kind === 'numbers'
      ? Float64Array.from(pairs, ({ row, twin }) => (at(target.values, row) - at(target.values, twin)) ** 2)
      : // The Brier score of a label that is sure.
        Float64Array.from(pairs, ({ row, twin }) => (target.codes[row] === target.codes[twin] ? 0 : 2));
  return beyond({ table, roles, base, fit, judge }, () => having, []);
}

/** Compares errors with those of the best that is known without: guessing, models of the features, the level of the judged rows. */
function beyond(
  { table, roles, base, fit, judge }: Omit<GainRequest, 'block'>,
  errorsWith: (guess: Float64Array) => Float64Array,
  columns: readonly string[],
): Gain | 'none' {
  const guess = guessedErrors(table, roles, fit, judge);
  // Where a series has come to another level, columns that show the level alone are no gain.
  const level = guessedErrors(table, roles, judge, judge);
  const without = best([guess, level, ...errorsOfModels(table, roles, base, fit, judge)]);
  const having = errorsWith(guess);
  const difference = without.map((error, i) => error - at(having, i));
  if (mean(difference) < LEAST_GAIN * mean(without)) return 'none';
  if (!isBeyondChance(difference, mean(having) < NEARLY_NOTHING * mean(without))) return 'none';
  const left = (of: Float64Array) => mean(of) / mean(guess);
  return { columns, without: left(without), with: left(having) };
}

/** Errors of each model that can be fitted: a small tree, and for numbers a linear model, too. */
const errorsOfModels = (
  table: Table,
  roles: GainRequest['roles'],
  features: readonly string[],
  fit: Int32Array,
  judge: Int32Array,
): Float64Array[] =>
  (roles.task === 'regression' ? ['tree', 'linear'] : ['tree']).flatMap(
    (model) => errorsBy(model, table, roles, features, fit, judge) ?? [],
  );

function complete(rows: Int32Array, columns: readonly Column[]): Int32Array {
  const whole = rows.filter((row) => columns.every((column) => !isMissing(column, row)));
  return whole.length >= MOSTLY_COMPLETE * rows.length ? whole : rows;
}

const best = (all: readonly Float64Array[]): Float64Array =>
  all.reduce((one, other) => (mean(other) < mean(one) ? other : one));

/**
 * Whether differences are above 0 beyond chance, by the means of consecutive chunks: by their t, or, since squared errors
 * are skewed, by how many of them are above 0. Chunks without much difference are left out of the count, as ties are in
 * a sign test: a series that stays on one side for long is predicted without the columns, too.
 *
 * @param isNearlyAll whether nearly all of the error goes, which useless columns do not bring about: fewer chunks suffice
 */
function isBeyondChance(differences: Float64Array, isNearlyAll: boolean): boolean {
  const chunks = Array.from({ length: CHUNKS }, (_, i) =>
    differences.slice(
      Math.floor((i * differences.length) / CHUNKS),
      Math.floor(((i + 1) * differences.length) / CHUNKS),
    ),
  ).filter(({ length }) => length > 0);
  const means = Float64Array.from(chunks, mean);
  const middle = mean(means);
  const variance = means.reduce((sum, value) => sum + (value - middle) ** 2, 0) / (means.length - 1);
  const size = mean(means.map(Math.abs));
  const above = means.filter((one) => one > TIE * size).length;
  const below = means.filter((one) => one < -TIE * size).length;
  return (
    middle / Math.sqrt(variance / means.length) > STEPS ||
    tail(above, above + below) < BY_CHANCE ||
    (isNearlyAll && above >= FEWEST_CHUNKS && below === 0)
  );
}

/** How often as many of `n` are heads as `k` or more. */
function tail(k: number, n: number): number {
  let [choices, sum] = [1, 0];
  for (let heads = n; heads >= k; heads--) {
    sum += choices;
    choices *= heads / (n - heads + 1);
  }
  return sum / 2 ** n;
}

/** Squared errors of a number, Brier scores of classes; null where the model cannot be fitted. */
function errorsBy(
  model: string,
  table: Table,
  roles: GainRequest['roles'],
  features: readonly string[],
  fit: Int32Array,
  judge: Int32Array,
): [Float64Array] | null {
  if (features.length === 0) return null;
  const target = targetOf(table, roles);
  const values =
    model === 'tree' ? { depth: 8, rows_per_leaf: Math.max(3, Math.round(fit.length / 150)) } : {};
  try {
    const fitted = fitModel({
      table,
      model: modelOf(model, values),
      task: roles.task,
      targetName: roles.target,
      group: null,
      target,
      features,
      rows: fit,
      weights: null,
      seed: 1,
    });
    return [errorsOf(judgedBy(targetRows(target, judge), predictRows(fitted, table, judge)))];
  } catch {
    // Rows that no model can be fitted to show nothing.
    return null;
  }
}

function errorsOf(judged: Judged): Float64Array {
  if (judged.kind === 'numbers') {
    const { truth, predicted } = judged.data;
    return Float64Array.from(truth, (value, i) => (value - at(predicted, i)) ** 2);
  }
  const { truth, probabilities } = judged.data;
  return Float64Array.from(truth, (code, i) =>
    (probabilities ?? []).reduce((sum, of, label) => sum + (at(of, i) - (label === code ? 1 : 0)) ** 2, 0),
  );
}

/** Errors of the mean, or of the shares of the classes. */
function guessedErrors(
  table: Table,
  roles: GainRequest['roles'],
  fit: Int32Array,
  judge: Int32Array,
): Float64Array {
  const target = targetOf(table, roles);
  if (target.kind === 'numbers') {
    const middle = mean(Float64Array.from(fit, (row) => at(target.values, row)));
    return Float64Array.from(judge, (row) => (at(target.values, row) - middle) ** 2);
  }
  const shares = target.labels.map(
    (_, label) => fit.filter((row) => target.codes[row] === label).length / fit.length,
  );
  return Float64Array.from(judge, (row) =>
    shares.reduce((sum, share, label) => sum + (share - (target.codes[row] === label ? 1 : 0)) ** 2, 0),
  );
}
