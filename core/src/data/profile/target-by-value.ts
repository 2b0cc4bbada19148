import { studentHalfWidth } from '../../foundation/statistics/distributions.js';
import { wilson } from '../../foundation/statistics/wilson.js';
import { at, edgeTexts, quantile } from '../../foundation/numbers.js';
import { labelsOf } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { shownClass } from './shown-class.js';
import { cellText, columnNamed, isCoded, type Column, type Table } from '../table/table.js';

/** The target among the rows of one value, or of one run of values, of a feature. */
export interface TargetAtValue {
  /** The value; for numbers the run, from above the first bound (from it on in the first run) up to the second. Null for rows without one. */
  readonly value: string | null;
  readonly from: number | null;
  readonly to: number | null;
  /** Rows with this value and a target. */
  readonly rows: number;
  /** Share of the class that is shown; the mean of a numeric target. Null without rows. */
  readonly figure: number | null;
  /** 95 % interval: Wilson for a share, Student's t for a mean; null for fewer than two rows of a mean. */
  readonly low: number | null;
  readonly high: number | null;
}

/** A column of numbers with more distinct values than this is cut at its deciles. */
const MOST_SINGLE_VALUES = 12;
const RUNS = 10;

/**
 * The target's rate or mean by the values of a feature, with a line at the end for the rows that have none.
 *
 * @returns with the class whose share is shown; null for means
 * @throws SieveError `no-such-column`
 */
export function targetByValue(
  table: Table,
  roles: Pick<Roles, 'target' | 'task' | 'positive'>,
  feature: string,
): { label: string | null; values: TargetAtValue[] } {
  const target = columnNamed(table, roles.target);
  const values = withMissing(valuesOf(columnNamed(table, feature)));
  const label = shownClass(target, roles);
  if (label === null && !isCoded(target)) {
    const means = values.labels.map((value, v) => ({
      ...at(values.bounds, v),
      value,
      ...meanWithInterval(target.values.filter((y, row) => at(values.codes, row) === v && !Number.isNaN(y))),
    }));
    return { label, values: means };
  }
  const classes = labelsOf(target);
  const wanted = classes.labels.indexOf(label ?? '');
  const rows = new Array<number>(values.labels.length).fill(0);
  const hits = rows.slice();
  values.codes.forEach((v, row) => {
    const code = at(classes.codes, row);
    if (v < 0 || code < 0) return;
    rows[v] = at(rows, v) + 1;
    if (code === wanted) hits[v] = at(hits, v) + 1;
  });
  const shares = values.labels.map((value, v) => {
    const n = at(rows, v);
    const interval = n === 0 ? { low: null, high: null } : wilson(at(hits, v), n);
    return { ...at(values.bounds, v), value, rows: n, figure: n === 0 ? null : at(hits, v) / n, ...interval };
  });
  return { label, values: shares };
}

interface Values {
  readonly labels: readonly (string | null)[];
  readonly codes: Int32Array;
  readonly bounds: readonly { readonly from: number | null; readonly to: number | null }[];
}

/** Missing cells as a value of their own, where there are any. */
function withMissing(values: Values): Values {
  if (!values.codes.includes(-1)) return values;
  const own = values.labels.length;
  return {
    labels: [...values.labels, null],
    codes: values.codes.map((code) => (code < 0 ? own : code)),
    bounds: [...values.bounds, { from: null, to: null }],
  };
}

/** A column's values, or the tenths of one of many numbers. */
function valuesOf(column: Column): Values {
  const none = { from: null, to: null };
  const labelled = labelsOf(column);
  if (isCoded(column) || labelled.labels.length <= MOST_SINGLE_VALUES)
    return { ...labelled, bounds: labelled.labels.map(() => none) };
  const sorted = column.values.filter((value) => !Number.isNaN(value)).sort();
  const cuts = [...new Set(Array.from({ length: RUNS + 1 }, (_, i) => quantile(sorted, i / RUNS)))];
  const texts =
    column.kind === 'time'
      ? cuts.map((value) => cellText({ ...column, values: Float64Array.of(value) }, 0) ?? '')
      : edgeTexts(cuts);
  const runs = cuts.slice(1).map((to, i) => ({ from: at(cuts, i), to }));
  return {
    // A bound belongs to the run below it, which the texts say.
    labels: runs.map((_, i) => `${i === 0 ? '' : 'above '}${at(texts, i)} to ${at(texts, i + 1)}`),
    codes: Int32Array.from(column.values, (value) => {
      if (Number.isNaN(value)) return -1;
      return Math.max(0, cuts.slice(1, -1).filter((cut) => value > cut).length);
    }),
    bounds: runs,
  };
}

function meanWithInterval(values: Float64Array): Pick<TargetAtValue, 'rows' | 'figure' | 'low' | 'high'> {
  const n = values.length;
  if (n === 0) return { rows: 0, figure: null, low: null, high: null };
  const mean = values.reduce((a, b) => a + b, 0) / n;
  if (n < 2) return { rows: n, figure: mean, low: null, high: null };
  const squares = values.reduce((total, value) => total + (value - mean) ** 2, 0);
  const half = studentHalfWidth(0.95, n - 1) * Math.sqrt(squares / (n - 1) / n);
  return { rows: n, figure: mean, low: mean - half, high: mean + half };
}
