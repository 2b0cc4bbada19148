import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle, type Random } from '../../foundation/random/random.js';
import { sidesOf, strongestFirst, type ScreenRequest } from '../../models/screening/keep.js';
import { statisticOf, type Side } from '../../models/screening/statistics.js';

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
