import { figureOf } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import { studentTwoSided } from '../../foundation/statistics/distributions.js';
import { judgedBy, readyFor, fittedOf, type FitRequest } from '../../models/fitted.js';
import { sampleFrom } from '../../models/contract/part.js';
import { predictState } from '../../models/predicted.js';
import { applyRecipe, type Recipe } from '../../models/prepared/recipe.js';
import { targetRows } from '../../models/prepared/target.js';
import { correctedResampledT, summariseFolds } from '../comparison/over-folds.js';
import { isGain } from '../trials/verdict-tests.js';

/** How many rows of a fold are judged, and how often a column is shuffled in it: as often as so many predictions allow. */
const MOST_ROWS = 1000;
const SHUFFLES = { least: 10, most: 30 };
const PREDICTIONS = 300_000;
/** False alarms that all columns of a model share; losses have heavier tails than Student's, so that it is below what is promised. */
const ALARMS = 0.018;

/** A fold in which a model is fitted and judged. */
export interface ImportanceFold {
  readonly training: Int32Array;
  readonly test: Int32Array;
}

/** How much a model loses where the values of a column go to other rows. */
export interface PermutationImportance {
  readonly column: string;
  /** By how much the metric is worse, mean over the folds; above 0 where the column helps. Null where it is not defined in any fold. */
  readonly mean: number | null;
  /** Standard error over the folds. */
  readonly se: number | null;
  /**
   * Whether it is worse by more than chance. Where a column says nothing, the rows as they are are one shuffle among others: the
   * mean over the folds is compared with those of the shuffles by Student's t. At most 2.5 % false alarms among all columns
   * together (Bonferroni; measured in docs/decisions/0044). Rows of one group resemble one another, so that their own order is no
   * shuffle like others; where rows come in groups the folds must show it as well.
   */
  readonly isShown: boolean;
}

/**
 * Permutation importance: in every fold the values of a column are shuffled among the rows that the model has not seen, and
 * the metric is taken again (Breiman, Random Forests, 2001, section 10; scikit-learn, `permutation_importance`). A column is
 * shuffled as it is in the table, so that all its dummies or words go together. Of columns that resemble one another each may
 * seem to matter little, since the others still say the same.
 *
 * @param request with the model at its chosen setting
 * @param isGrouped whether rows come in groups
 * @returns a line for each feature, in the order in which they were named; a feature that no fold could use has 0
 * @throws SieveError as `fitModel` throws it
 */
export function permutationImportance(
  request: Omit<FitRequest, 'rows'>,
  folds: readonly ImportanceFold[],
  metric: Metric,
  isGrouped = false,
): PermutationImportance[] {
  const rows = folds.reduce((most, { test }) => Math.max(most, Math.min(MOST_ROWS, test.length)), 1);
  const affordable = Math.floor(PREDICTIONS / (rows * request.features.length));
  const shuffles = Math.min(SHUFFLES.most, Math.max(SHUFFLES.least, affordable));
  const measured = folds.map((fold, place) => figuresIn(request, fold, place, metric, shuffles));
  const sign = metric.better === 'higher' ? 1 : -1;
  return request.features.map((column): PermutationImportance => {
    const losses = measured.flatMap(({ whole, shuffled }) => {
      const own = shuffled.get(column) ?? Array.from({ length: shuffles }, () => whole);
      const known = own.flatMap((figure) => (figure === null ? [] : [figure]));
      return whole === null || known.length < shuffles
        ? []
        : [known.map((figure) => sign * (whole - figure))];
    });
    const over = summariseFolds(losses.map((own) => ({ value: meanOf(own) })));
    if (over.mean === null) return { column, mean: null, se: null, isShown: false };
    const byShuffle = Array.from({ length: shuffles }, (_, i) => meanOf(losses.map((own) => at(own, i))));
    const questions = request.features.length;
    const isShown =
      isLoss(byShuffle, questions) && (!isGrouped || isLossOverFolds(losses.map(meanOf), questions));
    return { column, mean: over.mean, se: over.se, isShown };
  });
}

const meanOf = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/** Whether the losses of the shuffles lie above 0 by more than one shuffle lies from others. */
function isLoss(losses: readonly number[], questions: number): boolean {
  const mean = meanOf(losses);
  const n = losses.length;
  const variance = losses.reduce((sum, loss) => sum + (loss - mean) ** 2, 0) / (n - 1);
  const t = mean / Math.sqrt(variance * (1 + 1 / n));
  return t > 0 && studentTwoSided(t, n - 1) / 2 < ALARMS / questions;
}

/** Whether the losses of the folds lie above 0 by more than folds lie apart, corrected for the training rows that they share. */
function isLossOverFolds(losses: readonly number[], questions: number): boolean {
  const none = losses.map(() => 0);
  const test = correctedResampledT(losses, none, 1 / Math.max(1, losses.length - 1));
  return isGain('p' in test ? test : null, questions);
}

/** The metric in one fold: of the rows as they are, and of every shuffle of each column; null where it is not defined. */
function figuresIn(
  request: Omit<FitRequest, 'rows'>,
  { training, test: all }: ImportanceFold,
  place: number,
  metric: Metric,
  shuffles: number,
): {
  readonly whole: number | null;
  readonly shuffled: ReadonlyMap<string, readonly (number | null)[]>;
} {
  const { table, target, seed } = request;
  const asked = { ...request, rows: training };
  const { state, recipe } = fittedOf(asked, readyFor(asked));
  const drawn = shuffle(all.slice(), seededRandom(seed, `importance ${place}`));
  const test = drawn.slice(0, MOST_ROWS).sort();
  const truth = targetRows(target, test);
  const features = applyRecipe(recipe, table, test);
  const figure = (own: typeof features) =>
    figureOf(metric, judgedBy(truth, predictState(state, sampleFrom(own, test.length)))).value;
  const shuffled = recipe.features.map(({ name }, f) => {
    const alone: Recipe = { features: [at(recipe.features, f)], warnings: [] };
    const random = seededRandom(seed, `importance ${place} ${name}`);
    const figures = Array.from({ length: shuffles }, () => {
      const [other] = applyRecipe(alone, table, shuffle(test.slice(), random));
      return figure(features.map((feature, g) => (g === f && other ? other : feature)));
    });
    return [name, figures] as const;
  });
  return { whole: figure(features), shuffled: new Map(shuffled) };
}
