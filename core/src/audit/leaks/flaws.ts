import { at, count, counted, indices, quantile } from '../../foundation/numbers.js';
import { pearson } from '../../data/profile/association.js';
import { sortedValues } from '../../foundation/statistics/tally.js';
import { datesIn } from '../../data/table/dates.js';
import { countCodes, labelsOf } from '../../data/table/labels.js';
import { columnNamed, isCoded, takeRows, type Column, type NumberColumn } from '../../data/table/table.js';
import type { Leak, Watched } from './leak.js';

const MOST_ROWS = 20_000;
/** Columns of numbers that are set against each other; of more the first. */
const MOST_COLUMNS = 60;
/** Correlation from which two columns are said to be nearly the same. */
const ALIKE = 0.98;
/** A category of fewer rows than this is too rare to train on (common practice). */
const FEW_ROWS = 10;
const MOST_NAMED = 4;
/** Share of the values that must be dates, or of the rows that must name their label. */
const MOST = 0.95;
const SHORTEST_LABEL = 3;
/** A step in time longer than this many usual ones is a gap. */
const LONG_STEP = 1.5;
/** Share of steps that must be equal for a series to be called regular. */
const REGULAR = 0.8;

/** Pairs of features that are nearly the same. */
export function watchTwinColumns({ features, table }: Watched): Leak[] {
  const step = Math.ceil(table.rowCount / MOST_ROWS);
  const rows = indices(Math.floor(table.rowCount / Math.max(1, step))).map((i) => i * step);
  const numbers = features
    .filter((column): column is NumberColumn => column.kind === 'number')
    .slice(0, MOST_COLUMNS)
    .map((column) => takeRows(column, rows))
    .filter((column): column is NumberColumn => column.kind === 'number');
  return numbers.flatMap((a, i) =>
    numbers.slice(i + 1).flatMap((b): Leak[] => {
      const r = pearson(a.values, b.values);
      if (r === null || Math.abs(r) < ALIKE) return [];
      return [
        {
          column: b.name,
          kind: 'alike',
          measure: Math.abs(r),
          message: `${a.name} and ${b.name} are nearly the same (correlation ${r.toFixed(2).replace('-', '−')}): a model cannot separate their effects.`,
        },
      ];
    }),
  );
}

/** Categories with values in very few rows. */
export function watchRare({ features, roles }: Watched): Leak[] {
  return features.flatMap((column): Leak[] => {
    if (column.kind !== 'category' || column.name === roles.group) return [];
    const counts = countCodes(column.codes, column.levels.length);
    const rare = column.levels.filter((_, code) => at(counts, code) > 0 && at(counts, code) < FEW_ROWS);
    // A column of nothing but rare values is many-valued, which is reported elsewhere.
    if (rare.length === 0 || rare.length > column.levels.length / 2) return [];
    const named = rare.slice(0, MOST_NAMED).join(', ');
    const left = rare.length - MOST_NAMED;
    return [
      {
        column: column.name,
        kind: 'rare',
        measure: rare.length,
        message: `${column.name} has ${counted(rare.length, 'value')} with fewer than ${FEW_ROWS} rows: ${named}${left > 0 ? ` and ${left} more` : ''}.`,
      },
    ];
  });
}

const DATES = { day: 'dates', month: 'dates-month-first', either: 'dates-unclear' } as const;

/** Columns of texts that are dates, in whatever forms. */
export function watchDates({ features }: Watched): Leak[] {
  return features.flatMap(datesOf);
}

/** A column of texts that are dates; empty for another. */
export function datesOf(column: Column): Leak[] {
  if (!isCoded(column) || column.kind === 'boolean') return [];
  const found = datesIn(column.levels, MOST);
  if (!found) return [];
  const { reading, share } = found;
  const unsure = reading === 'either' ? ' Whether day or month comes first cannot be told from them.' : '';
  return [
    {
      column: column.name,
      kind: DATES[reading],
      measure: share,
      message: `${column.name} holds dates that were read as texts, as “${at(column.levels, 0)}” and “${column.levels.at(-1) ?? ''}”.${unsure}`,
    },
  ];
}

/** Texts that hold the label of their row, as names of files often do. */
export function watchLabelInText({ features, roles, classes }: Watched): Leak[] {
  if (roles.task === 'regression') return [];
  const labels = classes.labels.map((label) => label.toLowerCase());
  if (labels.some((label) => label.length < SHORTEST_LABEL)) return [];
  return features.flatMap((column): Leak[] => {
    if (!isCoded(column) || column.levels.length <= labels.length) return [];
    const texts = column.levels.map((level) => level.toLowerCase());
    let holding = 0;
    let rows = 0;
    column.codes.forEach((code, row) => {
      const label = labels[at(classes.codes, row)];
      if (code < 0 || label === undefined) return;
      rows++;
      if (at(texts, code).includes(label)) holding++;
    });
    if (rows === 0 || holding < MOST * rows) return [];
    return [
      {
        column: column.name,
        kind: 'label-in-text',
        measure: holding / rows,
        message: `${column.name} holds the ${roles.target} of its row in ${count(holding)} of ${counted(rows, 'row')}, as in “${column.levels[0] ?? ''}”.`,
      },
    ];
  });
}

/** Gaps in a series that otherwise runs in equal steps, within each group where there are groups. */
export function watchGaps({ table, roles }: Watched): Leak[] {
  const time = roles.time === null ? null : columnNamed(table, roles.time);
  if (!time || isCoded(time)) return [];
  const group = roles.group === null ? null : labelsOf(columnNamed(table, roles.group));
  const series = new Map<number, number[]>();
  time.values.forEach((value, row) => {
    const key = group ? at(group.codes, row) : 0;
    if (Number.isNaN(value) || key < 0) return;
    const own = series.get(key);
    if (own) own.push(value);
    else series.set(key, [value]);
  });
  const steps: number[] = [];
  for (const values of series.values()) {
    const sorted = sortedValues(Float64Array.from(values));
    for (let i = 1; i < sorted.length; i++)
      if (at(sorted, i) > at(sorted, i - 1)) steps.push(at(sorted, i) - at(sorted, i - 1));
  }
  if (steps.length < 2) return [];
  const usual = at(sortedValues(Float64Array.from(steps)), Math.floor(steps.length / 2));
  const isRegular =
    steps.filter((step) => Math.abs(step - usual) < 1e-6 * usual).length >= REGULAR * steps.length;
  const long = steps.filter((step) => step > LONG_STEP * usual);
  if (!isRegular || long.length === 0) return [];
  const widest = long.reduce((a, b) => Math.max(a, b), 0) / usual;
  return [
    {
      column: time.name,
      kind: 'gaps',
      measure: long.length,
      message: `${time.name} runs in equal steps but for ${counted(long.length, 'gap')}, the widest of ${counted(Math.round(widest), 'step')}.`,
    },
  ];
}

/** Groups that a trend is compared over, and rows that each of them must have. */
const FEWEST_GROUPS = 6;
const FEWEST_ROWS_OF_TREND = 30;
/** A trend this many times the usual distance from the median of the groups' trends runs away (common practice: 3 to 6). */
const FAR = 6;
/** What makes a median absolute deviation comparable to a standard deviation of normal values. */
const MAD_TO_SD = 1.4826;

/**
 * Columns of numbers that run away in one of many groups, as a sensor does that drifts: the slope over time in that
 * group lies far from the median of all slopes, by their median absolute deviation.
 */
export function watchDrift({ table, roles, features }: Watched): Leak[] {
  const time = roles.time === null ? null : columnNamed(table, roles.time);
  const group = roles.group === null ? null : labelsOf(columnNamed(table, roles.group));
  if (!time || !group || isCoded(time) || group.labels.length < FEWEST_GROUPS) return [];
  return features.flatMap((column): Leak[] => {
    if (column.kind !== 'number' || column.name === time.name) return [];
    const slopes = slopesOf(time.values, column.values, group.codes, group.labels.length);
    const known = Float64Array.from(slopes.filter((slope) => !Number.isNaN(slope))).sort();
    if (known.length < FEWEST_GROUPS) return [];
    const middle = quantile(known, 0.5);
    const spread = MAD_TO_SD * quantile(known.map((slope) => Math.abs(slope - middle)).sort(), 0.5);
    return group.labels.flatMap((label, code): Leak[] => {
      const steps = Math.abs(at(slopes, code) - middle) / spread;
      if (!(steps >= FAR) || !Number.isFinite(steps)) return [];
      return [
        {
          column: column.name,
          kind: 'drift',
          measure: steps,
          message: `${column.name} drifts over ${time.name} where ${roles.group ?? ''} is ${label}: its trend lies ${steps.toFixed(0)} times as far from the others' as is usual.`,
        },
      ];
    });
  });
}

/** The slope of y over x in each group, by least squares; NaN for one of few rows. */
function slopesOf(x: Float64Array, y: Float64Array, codes: Int32Array, groups: number): Float64Array {
  const [n, meanX, meanY, xx, xy] = Array.from({ length: 5 }, () => new Float64Array(groups));
  const out = new Float64Array(groups).fill(NaN);
  if (!n || !meanX || !meanY || !xx || !xy) return out;
  for (let row = 0; row < codes.length; row++) {
    const g = codes[row] ?? -1;
    const [a, b] = [x[row] ?? NaN, y[row] ?? NaN];
    if (g < 0 || Number.isNaN(a) || Number.isNaN(b)) continue;
    // Means and sums of products by steps (Welford, 1962).
    const m = (n[g] ?? 0) + 1;
    const dx = a - (meanX[g] ?? 0);
    n[g] = m;
    meanX[g] = (meanX[g] ?? 0) + dx / m;
    meanY[g] = (meanY[g] ?? 0) + (b - (meanY[g] ?? 0)) / m;
    xx[g] = (xx[g] ?? 0) + dx * (a - (meanX[g] ?? 0));
    xy[g] = (xy[g] ?? 0) + dx * (b - (meanY[g] ?? 0));
  }
  for (let g = 0; g < groups; g++)
    if (at(n, g) >= FEWEST_ROWS_OF_TREND && at(xx, g) > 0) out[g] = at(xy, g) / at(xx, g);
  return out;
}
