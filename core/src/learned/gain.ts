import { fitModel, judgedBy, predictRows } from '../models/fitted.js';
import { modelOf } from '../models/registry.js';
import { targetOf, targetRows } from '../models/prepared/target.js';
import type { Judged } from '../metrics/judged.js';
import { at } from '../numbers.js';
import { labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { pearson } from '../profile/association.js';
import { columnNamed, isCoded, isMissing, type Column, type Table } from '../table/table.js';

/** Columns of a block that a model gets: those that go with the target most, on the rows that it is fitted to. */
const MOST_COLUMNS = 12;
/** Blocks of judged rows whose mean differences are compared: neighbours resemble one another. */
const CHUNKS = 24;
/** Standard errors by which a block must help: t with 23 degrees of freedom is above 4 once in 3,600. */
const STEPS = 4;
/** Chunks that may be below: 22 of 24 are above by chance once in 55,000. */
const MOST_BELOW = 2;
/** Share of the error that is left which must go, so that nothing is named which nobody could use. */
const LEAST_GAIN = 0.3;

const FEWEST_ROWS = 40;
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

export interface GainRequest {
  readonly table: Table;
  readonly roles: Pick<Roles, 'target' | 'task' | 'positive'>;
  readonly base: readonly string[];
  /** Columns of as many rows as the table, under names that it has not. */
  readonly block: readonly Column[];
  readonly fit: Int32Array;
  /** Rows that are judged, in an order in which neighbours may resemble one another. */
  readonly judge: Int32Array;
}

/**
 * Whether some columns tell more of the target than the features do: a small tree (for numbers a linear model, too) is
 * fitted to some rows with and without them, and judged on others.
 *
 * @returns null where the gain is not beyond chance
 */
export function gainOf(request: GainRequest): Gain | null {
  const { table, roles, base, block } = request;
  const chosen = strongest(block, request);
  if (chosen.length === 0) return null;
  const [fit, judge] = [complete(request.fit, chosen), complete(request.judge, chosen)];
  if (fit.length < FEWEST_ROWS || judge.length < FEWEST_ROWS) return null;
  const wide: Table = { rowCount: table.rowCount, columns: [...table.columns, ...chosen] };
  const names = chosen.map(({ name }) => name);
  const models = roles.task === 'regression' ? ['tree', 'linear'] : ['tree'];
  const errors = (features: readonly string[]) =>
    models.flatMap((model) => errorsBy(model, wide, roles, features, fit, judge) ?? []);
  const guess = guessedErrors(table, roles, fit, judge);
  // The better of the models on each side: neither is given a handicap.
  const [without, having] = [best([guess, ...errors(base)]), best([guess, ...errors([...base, ...names])])];
  const left = (of: Float64Array) => mean(of) / mean(guess);
  const difference = without.map((error, i) => error - at(having, i));
  if (mean(difference) < LEAST_GAIN * mean(without) || !isBeyondChance(difference)) return null;
  return { columns: names, without: left(without), with: left(having) };
}

function complete(rows: Int32Array, columns: readonly Column[]): Int32Array {
  const whole = rows.filter((row) => columns.every((column) => !isMissing(column, row)));
  return whole.length >= MOSTLY_COMPLETE * rows.length ? whole : rows;
}

const mean = (values: Float64Array): number => values.reduce((a, b) => a + b, 0) / values.length;
const best = (all: readonly Float64Array[]): Float64Array =>
  all.reduce((one, other) => (mean(other) < mean(one) ? other : one));

/**
 * Whether differences are above 0 beyond chance, by the means of consecutive chunks: by their t, or, since squared errors
 * are skewed, by how many of them are above 0.
 */
function isBeyondChance(differences: Float64Array): boolean {
  const chunks = Array.from({ length: CHUNKS }, (_, i) =>
    differences.slice(
      Math.floor((i * differences.length) / CHUNKS),
      Math.floor(((i + 1) * differences.length) / CHUNKS),
    ),
  ).filter(({ length }) => length > 0);
  const means = Float64Array.from(chunks, mean);
  const middle = mean(means);
  const variance = means.reduce((sum, value) => sum + (value - middle) ** 2, 0) / (means.length - 1);
  const above = means.filter((one) => one > 0).length;
  return middle / Math.sqrt(variance / means.length) > STEPS || above >= means.length - MOST_BELOW;
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
      target,
      features,
      rows: fit,
      weights: null,
      seed: 1,
    });
    return [errorsOf(judgedBy(targetRows(target, judge), predictRows(fitted, table, judge)))];
  } catch {
    // Rows that no model can be fitted to tell nothing.
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

/** The columns of a block that go with the target most, by the share of its variance that a line or their bins explain. */
function strongest(block: readonly Column[], { table, roles, fit }: GainRequest): Column[] {
  const target = columnNamed(table, roles.target);
  const answers =
    roles.task === 'regression' && !isCoded(target)
      ? [Float64Array.from(fit, (row) => at(target.values, row))]
      : classIndicators(target, fit);
  return block
    .map((column) => ({ column, strength: Math.max(...answers.map((y) => strengthFor(column, fit, y))) }))
    .filter(({ strength }) => strength > 0)
    .sort((a, b) => b.strength - a.strength)
    .slice(0, MOST_COLUMNS)
    .map(({ column }) => column);
}

function classIndicators(target: Column, rows: Int32Array): Float64Array[] {
  const { labels, codes } = labelsOf(target);
  return labels.map((_, label) => Float64Array.from(rows, (row) => (codes[row] === label ? 1 : 0)));
}

function strengthFor(column: Column, rows: Int32Array, y: Float64Array): number {
  const line = isCoded(column)
    ? 0
    : (pearson(
        Float64Array.from(rows, (row) => at(column.values, row)),
        y,
      ) ?? 0) ** 2;
  return Math.max(line - 1 / rows.length, explained(column, rows, y));
}

const BINS = 8;

/** Share of the variance of `y` between the bins of a column, less what as many bins of noise would explain. */
function explained(column: Column, rows: Int32Array, y: Float64Array): number {
  const { bins, count } = binned(column, rows);
  if (count * 4 > rows.length) return 0;
  const [sums, sizes] = [new Float64Array(count), new Float64Array(count)];
  bins.forEach((bin, i) => {
    sums[bin] = at(sums, bin) + at(y, i);
    sizes[bin] = at(sizes, bin) + 1;
  });
  const middle = mean(y);
  const total = y.reduce((sum, value) => sum + (value - middle) ** 2, 0);
  let between = 0;
  for (let bin = 0; bin < count; bin++)
    if (at(sizes, bin) > 0) between += at(sizes, bin) * (at(sums, bin) / at(sizes, bin) - middle) ** 2;
  return total > 0 ? between / total - (count - 1) / (rows.length - 1) : 0;
}

function binned(column: Column, rows: Int32Array): { bins: Int32Array; count: number } {
  if (isCoded(column))
    return { bins: rows.map((row) => at(column.codes, row) + 1), count: column.levels.length + 1 };
  const present = Float64Array.from(rows, (row) => at(column.values, row)).filter(
    (value) => !Number.isNaN(value),
  );
  const sorted = present.sort();
  const cuts = Array.from(
    { length: BINS - 1 },
    (_, i) => sorted[Math.floor(((i + 1) * sorted.length) / BINS)] ?? 0,
  );
  return {
    bins: rows.map((row) => {
      const value = at(column.values, row);
      return Number.isNaN(value) ? BINS : cuts.filter((cut) => value >= cut).length;
    }),
    count: BINS + 1,
  };
}
