import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { seededRandom, shuffle } from '../../foundation/random/random.js';
import { quantileOf, tallyOf } from '../../foundation/statistics/tally.js';
import type { Table } from '../../data/table/table.js';
import { chancesOf } from '../../models/contract/chances.js';
import { type Fitted } from '../../models/fitted.js';
import { sampleFrom } from '../../models/contract/part.js';
import { predictState } from '../../models/predicted.js';
import { applyRecipe, type Feature } from '../../models/prepared/recipe.js';

/** Places along a column where it is alone, and where it is one of two. */
const PLACES = 24;
const PLACES_OF_TWO = 12;
/** Rows over which predictions are averaged, and those whose own curves are drawn. */
const MOST_ROWS = 1000;
const OWN_CURVES = 40;

/** A column along which predictions are followed. */
export type DependenceAxis =
  | {
      readonly column: string;
      readonly kind: 'number';
      /** Ascending; of dates in days since 1970-01-01. */
      readonly values: readonly number[];
    }
  | { readonly column: string; readonly kind: 'category'; readonly values: readonly string[] };

/** What a model predicts where one or two columns are set to the same value in every row. */
export interface Dependence {
  /** One or two. */
  readonly axes: readonly DependenceAxis[];
  /** The class whose probability is predicted; null for numbers. */
  readonly label: string | null;
  /** Mean prediction over the rows at every place; of two columns the places of the second run fastest. */
  readonly mean: readonly number[];
  /** Of one column the predictions of single rows at every place; none of two columns. */
  readonly rows: readonly (readonly number[])[];
  /** Rows that were averaged over. */
  readonly rowCount: number;
}

/**
 * Partial dependence of a model on one or two columns, with the curves of single rows (Friedman, Greedy function
 * approximation, 2001, section 8.2; Goldstein and others, Peeking inside the black box, 2015; scikit-learn,
 * `partial_dependence` with the method `brute`). A column of many numbers is followed at evenly spaced places between its 5 %
 * and 95 % quantiles.
 *
 * @param columns one or two features of the model
 * @param label of a class; null for numbers, or for the positive class
 * @param seed by which rows are drawn where there are too many
 * @throws SieveError `dependence` for a column that the model does not use, that holds texts, or that is named twice
 */
export function dependenceOf(
  fitted: Fitted,
  table: Table,
  rows: Int32Array,
  columns: readonly string[],
  label: string | null,
  seed: number,
): Dependence {
  const { recipe, state, labels, positive } = fitted;
  const fail = (message: string, field: string) => new SieveError('dependence', message, { field });
  if (new Set(columns).size < columns.length) throw fail('Choose two different columns.', 'second');
  const drawn = shuffle(rows.slice(), seededRandom(seed, 'dependence')).slice(0, MOST_ROWS).sort();
  const features = applyRecipe(recipe, table, drawn);
  const places = columns.map((name, i) => {
    const field = i === 0 ? 'column' : 'second';
    const place = features.findIndex((feature) => feature.name === name);
    const feature = features[place];
    if (!feature) throw fail(`The model does not use ${name}.`, field);
    if (feature.kind === 'words')
      throw fail(`${name} holds texts: there is no order or list of values to follow.`, field);
    return { place, feature, axis: axisOf(feature, columns.length === 1 ? PLACES : PLACES_OF_TWO) };
  });
  const shown = label ?? labels[positive ?? 0] ?? null;
  const code = shown === null ? -1 : labels.indexOf(shown);
  if (shown !== null && code < 0) throw fail(`No class is called “${shown}”.`, 'label');
  const predicted = (chosen: readonly number[]): Float64Array => {
    const own = features.slice();
    places.forEach(({ place, feature, axis }, i) => {
      own[place] = constant(feature, axis, at(chosen, i), drawn.length);
    });
    const out = predictState(state, sampleFrom(own, drawn.length));
    return code < 0 ? at(out, 0) : at(chancesOf(out, positive), code);
  };
  const curves = combinations(places.map(({ axis }) => axis.values.length)).map(predicted);
  const count = columns.length === 1 ? Math.min(OWN_CURVES, drawn.length) : 0;
  return {
    axes: places.map(({ axis }) => axis),
    label: shown,
    mean: curves.map((values) => values.reduce((a, b) => a + b, 0) / values.length),
    rows: Array.from({ length: count }, (_, i) => {
      const row = Math.floor((i * drawn.length) / count);
      return curves.map((values) => at(values, row));
    }),
    rowCount: drawn.length,
  };
}

/** Every pair of places, or every place of one axis. */
const combinations = (sizes: readonly number[]): number[][] =>
  sizes.reduce<number[][]>(
    (all, size) => all.flatMap((one) => Array.from({ length: size }, (_, place) => [...one, place])),
    [[]],
  );

type Followed = Exclude<Feature, { kind: 'words' }>;

function axisOf(feature: Followed, most: number): DependenceAxis {
  const { name: column } = feature;
  if (feature.kind === 'category') return { column, kind: 'category', values: feature.levels };
  const tally = tallyOf(feature.values);
  if (tally.values.length <= most) return { column, kind: 'number', values: Array.from(tally.values) };
  const [low, high] = [quantileOf(tally, 0.05), quantileOf(tally, 0.95)];
  if (low === high) return { column, kind: 'number', values: [low] };
  const values = Array.from({ length: most }, (_, i) => low + ((high - low) * i) / (most - 1));
  return { column, kind: 'number', values };
}

/** A feature that has the same value in every row. */
function constant(feature: Followed, axis: DependenceAxis, place: number, rowCount: number): Feature {
  if (feature.kind === 'category') return { ...feature, codes: new Int32Array(rowCount).fill(place) };
  return { ...feature, values: new Float64Array(rowCount).fill(Number(axis.values[place])) };
}
