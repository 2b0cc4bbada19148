import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import { labelsOf, type Labelled } from '../table/labels.js';
import type { Roles } from '../table/roles.js';
import { asClass } from '../table/recode.js';
import { columnNamed, isCoded, type Column, type Table } from '../table/table.js';
import { boxesOf, mostFrequent, type Boxes } from './boxes.js';
import { associationOf, type Association } from './correlations.js';

/** A straight line by least squares. */
export interface FittedLine {
  readonly slope: number;
  readonly intercept: number;
  /** Share of the variance that it explains. */
  readonly r2: number;
}

interface Extent {
  readonly low: number;
  readonly high: number;
}

/** Numbers of rows in a grid of equal cells, from the lowest values on: counts[y][x]. */
export interface Density {
  readonly x: Extent;
  readonly y: Extent;
  readonly counts: readonly (readonly number[])[];
}

/** Two columns of numbers: a sample of the rows as points, and all of them as a density where there are many. */
export interface Points {
  readonly kind: 'points';
  readonly x: readonly number[];
  readonly y: readonly number[];
  /** Class of each point, an index into `labels`, −1 for none; null without a target of classes. */
  readonly classes: readonly number[] | null;
  readonly labels: readonly string[];
  readonly density: Density | null;
  readonly line: FittedLine | null;
}

/** Two columns of categories: rows by both, counts[y][x]. */
export interface CrossTable {
  readonly kind: 'cross';
  readonly x: readonly string[];
  readonly y: readonly string[];
  readonly counts: readonly (readonly number[])[];
  /** Rows whose category is left out in either direction. */
  readonly more: number;
}

export interface Pair {
  /** Rows that have both values. */
  readonly rows: number;
  readonly association: Association | null;
  readonly shown: Points | Boxes | CrossTable;
}

const MOST_POINTS = 2000;
const DENSITY_FROM = 5000;
const ACROSS = 48;
const HIGH = 30;
const MOST_CROSSED = 16;
/** Classes that have marks of their own. */
const MOST_CLASSES = 5;

/**
 * Two columns looked at together. Numbers that are all 0 or 1 are classes here.
 *
 * @param roles for the classes of points; null before they are known
 * @throws SieveError `no-such-column`, `free-text` for a column of free texts
 */
export function pairOf(table: Table, xName: string, yName: string, roles: Roles | null): Pair {
  const [x, y] = [asClass(columnNamed(table, xName)), asClass(columnNamed(table, yName))];
  for (const { kind, name } of [x, y])
    if (kind === 'text')
      throw new SieveError('free-text', `${name} holds free texts, which nothing can be set against.`, {
        field: name,
      });
  const rows = rowsWithBoth(x, y, table.rowCount);
  const association = associationOf(x, y, 'Pearson');
  if (!isCoded(x) && !isCoded(y)) {
    const target = roles && roles.task !== 'regression' ? labelsOf(columnNamed(table, roles.target)) : null;
    return { rows: rows.length, association, shown: pointsOf(x.values, y.values, rows, target) };
  }
  if (isCoded(x) && isCoded(y))
    return { rows: rows.length, association, shown: crossed(labelsOf(x), labelsOf(y), rows) };
  const [category, number] = isCoded(x) ? [x, y] : [y, x];
  const values = isCoded(number) ? new Float64Array() : number.values;
  return {
    rows: rows.length,
    association,
    shown: boxesOf({ name: category.name, ...labelsOf(category) }, { name: number.name, values }, rows),
  };
}

function rowsWithBoth(x: Column, y: Column, rowCount: number): Int32Array {
  const has = (column: Column, row: number) =>
    isCoded(column) ? (column.codes[row] ?? -1) >= 0 : !Number.isNaN(column.values[row] ?? NaN);
  const rows = new Int32Array(rowCount);
  let n = 0;
  for (let row = 0; row < rowCount; row++) if (has(x, row) && has(y, row)) rows[n++] = row;
  return rows.slice(0, n);
}

function pointsOf(x: Float64Array, y: Float64Array, rows: Int32Array, target: Labelled | null): Points {
  const drawn =
    rows.length <= MOST_POINTS
      ? rows
      : shuffle(rows.slice(), seededRandom(1, 'points')).slice(0, MOST_POINTS).sort();
  const known = target && target.labels.length <= MOST_CLASSES ? target : null;
  return {
    kind: 'points',
    x: Array.from(drawn, (row) => at(x, row)),
    y: Array.from(drawn, (row) => at(y, row)),
    classes: known ? Array.from(drawn, (row) => at(known.codes, row)) : null,
    labels: known?.labels ?? [],
    density: rows.length >= DENSITY_FROM ? densityOf(x, y, rows) : null,
    line: lineOf(x, y, rows),
  };
}

function extent(values: Float64Array, rows: Int32Array): Extent {
  let [low, high] = [Infinity, -Infinity];
  for (const row of rows) {
    const value = at(values, row);
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return { low, high };
}

function densityOf(x: Float64Array, y: Float64Array, rows: Int32Array): Density {
  const [ex, ey] = [extent(x, rows), extent(y, rows)];
  const flat = new Int32Array(ACROSS * HIGH);
  const cell = (value: number, { low, high }: Extent, cells: number) =>
    high > low ? Math.min(cells - 1, Math.floor(((value - low) / (high - low)) * cells)) : 0;
  for (const row of rows) {
    const place = cell(at(y, row), ey, HIGH) * ACROSS + cell(at(x, row), ex, ACROSS);
    flat[place] = (flat[place] ?? 0) + 1;
  }
  return {
    x: ex,
    y: ey,
    counts: Array.from({ length: HIGH }, (_, r) => Array.from(flat.subarray(r * ACROSS, (r + 1) * ACROSS))),
  };
}

/** Least squares of y on x; null where x does not vary, or y. */
function lineOf(x: Float64Array, y: Float64Array, rows: Int32Array): FittedLine | null {
  const n = rows.length;
  let [sumX, sumY] = [0, 0];
  for (const row of rows) {
    sumX += at(x, row);
    sumY += at(y, row);
  }
  const [meanX, meanY] = [sumX / n, sumY / n];
  let [xx, xy, yy] = [0, 0, 0];
  for (const row of rows) {
    const [dx, dy] = [at(x, row) - meanX, at(y, row) - meanY];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  if (!(xx > 0 && yy > 0)) return null;
  const slope = xy / xx;
  return { slope, intercept: meanY - slope * meanX, r2: (xy * xy) / (xx * yy) };
}

function crossed(x: Labelled, y: Labelled, rows: Int32Array): CrossTable {
  const [across, down] = [mostFrequent(x, rows, MOST_CROSSED), mostFrequent(y, rows, MOST_CROSSED)];
  const placeX = new Map(across.map((code, place) => [code, place]));
  const placeY = new Map(down.map((code, place) => [code, place]));
  const counts = down.map(() => across.map(() => 0));
  let more = 0;
  for (const row of rows) {
    const [i, j] = [placeX.get(at(x.codes, row)), placeY.get(at(y.codes, row))];
    if (i === undefined || j === undefined) more++;
    else at(counts, j)[i] = at(at(counts, j), i) + 1;
  }
  return {
    kind: 'cross',
    x: across.map((code) => at(x.labels, code)),
    y: down.map((code) => at(y.labels, code)),
    counts,
    more,
  };
}
