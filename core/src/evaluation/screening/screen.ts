import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle, type Random } from '../../foundation/random/random.js';
import { columnNamed, isCoded, type Table } from '../../data/table/table.js';
import { labelsOf } from '../../data/table/labels.js';
import { targetRows, type Target } from '../../models/prepared/target.js';
import { codesOf, statisticOf, type ScreenBy, type Side, type Statistic } from './statistics.js';

/** A column beside the target. */
export interface ScreenedColumn {
  readonly column: string;
  /**
   * Null where it has none: a column that does not vary, or classes by an analysis of variance. Infinite, and null in JSON
   * beside a p of 0, where the target follows from it without an error.
   */
  readonly statistic: number | null;
  readonly p: number | null;
  /** The least false discovery rate at which the column is among those that are named (Benjamini and Hochberg, 1995). */
  readonly q: number | null;
  /** What 95 % of shuffled targets stay below. */
  readonly shuffled: number | null;
}

/** What is screened: columns on some rows. */
export interface ScreenRequest {
  readonly table: Table;
  readonly target: Target;
  readonly features: readonly string[];
  readonly rows: Int32Array;
  readonly by: ScreenBy;
}

const MOST_SHUFFLES = 100;
const FEWEST_SHUFFLES = 20;
/** Cells that are looked at for shuffled targets, about. */
const WORK = 5e7;

/**
 * Every column set against the target by itself, the strongest first, with the false discovery rate over all of them and
 * what the same statistic comes to where the target is shuffled.
 */
export function screenColumns(request: ScreenRequest, seed: number): ScreenedColumn[] {
  const { columns, target } = sidesOf(request);
  const random = seededRandom(seed, 'screening');
  const cells = request.rows.length * Math.max(1, columns.length);
  const shuffles = Math.max(FEWEST_SHUFFLES, Math.min(MOST_SHUFFLES, Math.floor(WORK / cells)));
  const found = columns.map(({ side }) => statisticOf(request.by, side, target));
  const others: number[][] = columns.map(() => []);
  for (let i = 0; i < shuffles; i++) {
    const order = shuffledSide(target, random);
    columns.forEach(({ side }, c) => {
      const value = found[c] ? statisticOf(request.by, side, order)?.value : undefined;
      if (value !== undefined) others[c]?.push(value);
    });
  }
  const q = discoveryRates(found.map((one) => one?.p ?? null));
  return strongestFirst(found).map((c) => ({
    column: at(columns, c).column,
    statistic: found[c]?.value ?? null,
    p: found[c]?.p ?? null,
    q: at(q, c),
    shuffled: upper(others[c] ?? []),
  }));
}

/** The columns that a screening keeps, the strongest of them first. */
export function screenedFeatures(request: ScreenRequest, keep: number): string[] {
  const { columns, target } = sidesOf(request);
  const found = columns.map(({ side }) => statisticOf(request.by, side, target));
  return strongestFirst(found)
    .filter((c) => found[c] !== null)
    .slice(0, keep)
    .map((c) => at(columns, c).column);
}

/**
 * For each p the least false discovery rate at which its hypothesis is among the rejected ones (Benjamini and Hochberg,
 * Journal of the Royal Statistical Society B 57, 1995). Null stays null and is not counted.
 */
export function discoveryRates(p: readonly (number | null)[]): (number | null)[] {
  const known = p.flatMap((value, i) => (value === null ? [] : [{ value, i }]));
  known.sort((a, b) => b.value - a.value);
  const out: (number | null)[] = p.map(() => null);
  let least = 1;
  known.forEach(({ value, i }, place) => {
    least = Math.min(least, (value * known.length) / (known.length - place));
    out[i] = least;
  });
  return out;
}

/** By p, and of equal ones by the statistic; columns without one last. Places among the columns. */
function strongestFirst(found: readonly (Statistic | null)[]): number[] {
  const p = (c: number) => found[c]?.p ?? 2;
  const value = (c: number) => found[c]?.value ?? -1;
  return [...found.keys()].sort((a, b) => p(a) - p(b) || value(b) - value(a) || a - b);
}

/** The columns and the target on the rows, cut into parts once where a statistic counts. */
function sidesOf({ table, target, features, rows, by }: ScreenRequest) {
  const prepared = (side: Side): Side => (by === 'anova' ? side : codesOf(side));
  const own = targetRows(target, rows);
  const truth: Side =
    own.kind === 'numbers'
      ? { kind: 'numbers', values: own.values }
      : { kind: 'codes', codes: own.codes, count: own.labels.length };
  const columns = features.map((column) => {
    const found = columnNamed(table, column);
    if (!isCoded(found))
      return {
        column,
        side: prepared({ kind: 'numbers', values: Float64Array.from(rows, (row) => at(found.values, row)) }),
      };
    const { labels, codes } = labelsOf(found);
    return {
      column,
      side: { kind: 'codes' as const, codes: rows.map((row) => codes[row] ?? -1), count: labels.length },
    };
  });
  return { columns, target: prepared(truth) };
}

function shuffledSide(side: Side, random: Random): Side {
  return side.kind === 'numbers'
    ? { ...side, values: shuffle(side.values.slice(), random) }
    : { ...side, codes: shuffle(side.codes.slice(), random) };
}

/** What 95 % of the values stay below. */
function upper(values: readonly number[]): number | null {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length === 0 ? null : at(sorted, Math.ceil(0.95 * sorted.length) - 1);
}
