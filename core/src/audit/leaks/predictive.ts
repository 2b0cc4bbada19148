import { areaOf, rankingOf } from '../../metrics/curves/ranking.js';
import { at, count, counted, indices, quantile } from '../../foundation/numbers.js';
import { sortedValues } from '../../foundation/statistics/tally.js';
import { pearson, spearman } from '../../data/profile/association.js';
import { labelsOf, type Labelled } from '../../data/table/labels.js';
import { isCoded, takeRows, type Column } from '../../data/table/table.js';
import type { Leak, Watched } from './leak.js';

/** A single column of numbers that ranks two classes this well is likely to give the answer away. */
const TELLING_AREA = 0.95;
/** Largest share of the errors of guessing that a single column may remove, and of the variance of a number that it may explain. */
const TELLING_SHARE = 0.95;
const TELLING_VARIANCE = 0.98;
const BINS = 32;
const MOST_ROWS = 100_000;

/** Features that alone predict the target almost perfectly. */
export function watchPredictive(all: Watched): Leak[] {
  const watched = sampled(all);
  return watched.features.flatMap((column) => {
    const found = strengthOf(column, watched);
    if (!found || !(found.strength >= found.limit)) return settledBy(column, watched);
    return [
      {
        column: column.name,
        kind: 'predictive',
        measure: found.strength,
        message: `${column.name} gives the answer away: alone it ${found.how} ${found.strength.toFixed(2)}.`,
      },
    ];
  });
}

/** Share of the rows of values that have several rows from which the value is said to settle the class. */
const SETTLED = 0.95;
/** Shuffled classes settle as many values with a chance below e to the power of minus this, one in a million. */
const NO_CHANCE = Math.log(1e6);

/** A category whose rows nearly all have the class of the other rows of their value, however many values it has. */
function settledBy(column: Column, { roles, classes }: Watched): Leak[] {
  if (roles.task === 'regression' || column.kind !== 'category' || column.name === roles.group) return [];
  const rows = indices(classes.codes.length).filter((row) => at(classes.codes, row) >= 0);
  const { labels, codes } = labelsOf(column);
  const totals = new Float64Array(classes.labels.length);
  const counts = labels.map(() => new Float64Array(classes.labels.length));
  for (const row of rows) {
    const own = counts[at(codes, row)];
    const code = at(classes.codes, row);
    totals[code] = at(totals, code) + 1;
    if (own) own[code] = at(own, code) + 1;
  }
  const several = counts
    .map((own) => ({ rows: own.reduce((a, b) => a + b, 0), most: Math.max(...own) }))
    .filter((value) => value.rows > 1);
  const settled = several.filter(({ rows: n, most }) => most === n);
  const of = several.reduce((sum, value) => sum + value.rows, 0);
  const share = settled.reduce((sum, value) => sum + value.rows, 0) / of;
  // By chance a value of n rows has one class with the sum of the classes' shares to the power of n.
  const chances = several.map(({ rows: n }) =>
    totals.reduce((sum, total) => sum + (total / rows.length) ** n, 0),
  );
  const expected = chances.reduce((a, b) => a + b, 0);
  if (!(share >= SETTLED) || !(surprise(settled.length, expected, several.length) > NO_CHANCE)) return [];
  return [
    {
      column: column.name,
      kind: 'predictive',
      measure: share,
      message: `${column.name} gives the answer away: of its ${counted(several.length, 'value')} with several rows, ${count(settled.length)} ${settled.length === 1 ? 'has' : 'have'} one ${roles.target} in all of them (${count(Math.round(expected))} would by chance).`,
    },
  ];
}

/**
 * How surprising it is that so many of n independent events happen of which fewer are expected: minus the logarithm of a
 * bound of the chance, 0 where as many are expected (Hoeffding, Journal of the American Statistical Association 58, 1963, theorem 1).
 */
function surprise(happened: number, expected: number, n: number): number {
  const [share, chance] = [happened / n, expected / n];
  if (!(share > chance)) return 0;
  const rest = share < 1 ? (1 - share) * Math.log((1 - share) / (1 - chance)) : 0;
  return n * (share * Math.log(share / chance) + rest);
}

/** Every n-th row of a large table, which is enough to see what predicts almost perfectly. */
function sampled(watched: Watched): Watched {
  const { table, classes, target, features } = watched;
  const step = Math.ceil(table.rowCount / MOST_ROWS);
  if (step <= 1) return watched;
  const rows = indices(Math.ceil(table.rowCount / step)).map((i) => i * step);
  return {
    ...watched,
    target: takeRows(target, rows),
    features: features.map((column) => takeRows(column, rows)),
    classes: { ...classes, codes: rows.map((row) => at(classes.codes, row)) },
  };
}

/** How well one feature alone predicts the target, by the figure that fits both; null for free text. */
export function strengthOf(
  column: Column,
  { roles, target, classes }: Pick<Watched, 'roles' | 'target' | 'classes'>,
): { readonly strength: number; readonly limit: number; readonly how: string } | null {
  if (column.kind === 'text') return null;
  if (roles.task === 'regression') {
    if (isCoded(target)) return null;
    const y = target.values;
    if (isCoded(column))
      return {
        strength: explainedByLevel(labelsOf(column), y),
        limit: TELLING_VARIANCE,
        how: `explains ${roles.target} with R²`,
      };
    const r = Math.max(Math.abs(pearson(column.values, y) ?? 0), Math.abs(spearman(column.values, y) ?? 0));
    return {
      strength: r,
      limit: Math.sqrt(TELLING_VARIANCE),
      how: `goes with ${roles.target} at a correlation of`,
    };
  }
  if (roles.task === 'binary' && !isCoded(column)) {
    const positive = classes.labels.indexOf(roles.positive ?? '');
    const rows = indices(classes.codes.length).filter(
      (row) => at(classes.codes, row) >= 0 && !Number.isNaN(at(column.values, row)),
    );
    const scores = Float64Array.from(rows, (row) => at(column.values, row));
    const truth = rows.map((row) => at(classes.codes, row));
    const area = areaOf(rankingOf(scores, truth, positive, null));
    return {
      strength: Math.max(area, 1 - area),
      limit: TELLING_AREA,
      how: `ranks ${roles.target} with area`,
    };
  }
  const values = isCoded(column) ? labelsOf(column) : binned(column.values);
  return {
    strength: toldByLevel(values, classes),
    limit: TELLING_SHARE,
    how: `predicts ${roles.target} in a share of the rows that guessing gets wrong of`,
  };
}

/** A column of numbers as its runs of equal numbers of rows. */
function binned(values: Float64Array): Labelled {
  const sorted = sortedValues(values);
  const cuts =
    sorted.length === 0 ? [] : Array.from({ length: BINS - 1 }, (_, i) => quantile(sorted, (i + 1) / BINS));
  return {
    labels: Array.from({ length: BINS }, (_, i) => String(i)),
    codes: Int32Array.from(values, (value) =>
      Number.isNaN(value) ? -1 : cuts.filter((cut) => value > cut).length,
    ),
  };
}

/**
 * Share of the rows that the most frequent class gets wrong which the most frequent class of the other rows of the
 * same value gets right. A value of one row alone shows nothing.
 */
function toldByLevel(values: Labelled, classes: Labelled): number {
  const k = classes.labels.length;
  const counts = new Int32Array(values.labels.length * k);
  const totals = new Int32Array(k);
  const each = (visit: (value: number, code: number) => void) =>
    classes.codes.forEach((code, row) => {
      const value = at(values.codes, row);
      if (code >= 0 && value >= 0) visit(value, code);
    });
  each((value, code) => {
    counts[value * k + code] = at(counts, value * k + code) + 1;
    totals[code] = at(totals, code) + 1;
  });
  let right = 0;
  let n = 0;
  each((value, code) => {
    n++;
    const own = at(counts, value * k + code) - 1;
    let most = own;
    for (let other = 0; other < k; other++)
      if (other !== code) most = Math.max(most, at(counts, value * k + other));
    if (own > 0 && own === most) right++;
  });
  const guessed = Math.max(0, ...totals);
  return n > guessed ? (right - guessed) / (n - guessed) : 0;
}

/** R² of predicting a number by the mean of the other rows of the same value. */
function explainedByLevel(values: Labelled, y: Float64Array): number {
  const sums = new Float64Array(values.labels.length);
  const counts = new Int32Array(values.labels.length);
  let total = 0;
  let n = 0;
  const each = (visit: (value: number, y: number) => void) =>
    y.forEach((number, row) => {
      const value = at(values.codes, row);
      if (!Number.isNaN(number) && value >= 0) visit(value, number);
    });
  each((value, number) => {
    sums[value] = at(sums, value) + number;
    counts[value] = at(counts, value) + 1;
    total += number;
    n++;
  });
  const mean = total / n;
  let about = 0;
  let left = 0;
  each((value, number) => {
    const others = at(counts, value) - 1;
    const guess = others > 0 ? (at(sums, value) - number) / others : mean;
    about += (number - mean) ** 2;
    left += (number - guess) ** 2;
  });
  return about > 0 ? 1 - left / about : 0;
}
