import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import type { Metric } from '../../metrics/metric.js';
import type { FitRequest } from '../../models/fitted.js';
import type { Target } from '../../models/prepared/target.js';
import { figureOverFolds, type Fold, type ScreenedFigure } from './over-folds.js';
import { screenedFeatures, type Screening } from '../../models/screening/keep.js';

/** One model after two screenings: by the training rows of each fold, and by all rows beforehand. */
export interface InsideOutside {
  readonly inside: ScreenedFigure;
  readonly outside: ScreenedFigure;
}

/** The leak of screening outside the folds. */
export interface ScreeningLeak extends InsideOutside {
  /** The same with targets that were shuffled, where there is nothing to be found. */
  readonly shuffled: InsideOutside;
  /** In how many folds each column was kept; of those that were kept in one at least, the most frequent first. */
  readonly kept: readonly { readonly column: string; readonly folds: number }[];
  readonly folds: number;
}

/**
 * Fits a model to the columns that a screening keeps, once chosen within each fold and once by all rows before: the second
 * has seen the rows that judge it (Ambroise and McLachlan, PNAS 99, 2002; Hastie, Tibshirani and Friedman, 2009, 7.10.2).
 * Then again with the target shuffled among the rows of the folds.
 *
 * @throws SieveError as `screenedFeatures` and `fitModel` throw it
 */
export function screeningLeak(
  request: Omit<FitRequest, 'rows'>,
  folds: readonly Fold[],
  { by, keep }: Screening,
  metric: Metric,
): ScreeningLeak {
  const rows = Int32Array.from(new Set(folds.flatMap(({ test }) => [...test]))).sort();
  const counts = new Map<string, number>();
  const seen = (features: readonly string[]) =>
    features.forEach((name) => counts.set(name, (counts.get(name) ?? 0) + 1));
  const real = bothWays(request, folds, rows, { by, keep, metric, seen });
  const target = shuffledTarget(request.target, rows, request.seed);
  const shuffled = bothWays({ ...request, target }, folds, rows, { by, keep, metric, seen: () => undefined });
  const kept = [...counts].map(([column, own]) => ({ column, folds: own }));
  return { ...real, shuffled, kept: kept.sort((a, b) => b.folds - a.folds), folds: folds.length };
}

function bothWays(
  request: Omit<FitRequest, 'rows'>,
  folds: readonly Fold[],
  rows: Int32Array,
  { by, keep, metric, seen }: Screening & { metric: Metric; seen: (features: readonly string[]) => void },
): InsideOutside {
  const { table, target, features } = request;
  const chosen = (on: Int32Array) => screenedFeatures({ table, target, features, rows: on, by }, keep);
  const before = chosen(rows);
  const inside = figureOverFolds(
    request,
    folds,
    (fold) => {
      const own = chosen(at(folds, fold).training);
      seen(own);
      return own;
    },
    metric,
  );
  return { inside, outside: figureOverFolds(request, folds, () => before, metric) };
}

/** The target with its values in another order among the rows; all other rows keep theirs. */
function shuffledTarget(target: Target, rows: Int32Array, seed: number): Target {
  const order = shuffle(rows.slice(), seededRandom(seed, 'screening-shuffled'));
  if (target.kind === 'numbers') {
    const values = target.values.slice();
    rows.forEach((row, i) => (values[row] = at(target.values, at(order, i))));
    return { ...target, values };
  }
  const codes = target.codes.slice();
  rows.forEach((row, i) => (codes[row] = at(target.codes, at(order, i))));
  return { ...target, codes };
}
