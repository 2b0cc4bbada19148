import { medianOf } from '../../foundation/statistics/median.js';
import { countCodes } from '../../data/table/labels.js';
import { byCodeUnit } from '../../data/table/order.js';
import {
  columnNamed,
  isCoded,
  takeRows,
  type Column,
  type NumberColumn,
  type Table,
  type TimeColumn,
} from '../../data/table/table.js';
import { commonWords, countsOfWord } from '../../data/table/words.js';

/** Levels that a category keeps; rarer ones, and any that no training row has, are one level besides. */
const MOST_LEVELS = 50;
/** Words that are counted of a text. */
const MOST_WORDS = 50;
/** Dates count in days, so that a coefficient is one that can be read. */
export const DAY = 24 * 3600 * 1000;
/** What rarer levels are called together. */
const REST = '(others)';

/**
 * What is learned of a feature from the training rows alone, so that held-out rows have no influence: what a
 * missing cell is filled with, which levels a category has, which words a text.
 */
export type FeatureRecipe =
  | {
      readonly kind: 'number';
      readonly name: string;
      /** The median. */
      readonly fill: number;
      /** Smallest and largest value seen; of dates in days, as is `fill`. */
      readonly low: number;
      readonly high: number;
    }
  | {
      readonly kind: 'category';
      readonly name: string;
      readonly levels: readonly string[];
      /** Place of the most frequent level. */
      readonly fill: number;
      /** Whether the last level stands for all others. */
      readonly rest: boolean;
    }
  | { readonly kind: 'words'; readonly name: string; readonly words: readonly string[] };

export interface Recipe {
  readonly features: readonly FeatureRecipe[];
  /** Features that could not be used, and why, as sentences. */
  readonly warnings: readonly string[];
}

/**
 * Learns how features are prepared from training rows.
 *
 * @param names of the features
 * @throws SieveError `no-such-column`
 */
export function learnRecipe(table: Table, names: readonly string[], rows: Int32Array): Recipe {
  const warnings: string[] = [];
  const features = names.flatMap((name): FeatureRecipe[] => {
    const learned = learnFeature(takeRows(columnNamed(table, name), rows));
    if (learned === null) warnings.push(`${name} has no value in the training rows: left out.`);
    return learned ? [learned] : [];
  });
  return { features, warnings };
}

function learnFeature(column: Column): FeatureRecipe | null {
  const { name } = column;
  if (!isCoded(column)) {
    const values = numbersOf(column);
    const fill = medianOf(values);
    if (Number.isNaN(fill)) return null;
    let [low, high] = [fill, fill];
    for (let i = 0; i < values.length; i++) {
      const value = values[i] ?? NaN;
      if (value < low) low = value;
      if (value > high) high = value;
    }
    return { kind: 'number', name, fill, low, high };
  }
  const counts = countCodes(column.codes, column.levels.length);
  const present = column.levels
    .map((level, code) => ({ level, rows: counts[code] ?? 0 }))
    .filter(({ rows }) => rows > 0);
  if (present.length === 0) return null;
  if (column.kind === 'text') {
    const words = commonWords(column.levels, column.codes, MOST_WORDS);
    return words.length > 0 ? { kind: 'words', name, words } : null;
  }
  const byRows = present.sort((a, b) => b.rows - a.rows || byCodeUnit(a.level, b.level));
  const rest = byRows.length > MOST_LEVELS;
  const kept = byRows.slice(0, MOST_LEVELS).map(({ level }) => level);
  const levels = [...kept].sort(byCodeUnit);
  const fill = levels.indexOf(kept[0] ?? '');
  return { kind: 'category', name, levels: rest ? [...levels, REST] : levels, fill, rest };
}

/** Numbers as they are, dates as days since 1970-01-01. */
const numbersOf = ({ kind, values }: NumberColumn | TimeColumn): Float64Array =>
  kind === 'time' ? values.map((value) => value / DAY) : values;

/** A feature of n rows as its recipe has it, with missing cells as they are: NaN, or code −1. */
export type Feature =
  | { readonly kind: 'number'; readonly name: string; readonly values: Float64Array; readonly fill: number }
  | {
      readonly kind: 'category';
      readonly name: string;
      readonly levels: readonly string[];
      readonly codes: Int32Array;
      readonly fill: number;
    }
  | {
      readonly kind: 'words';
      readonly name: string;
      readonly words: readonly string[];
      /** For each word how often it occurs in each row; 0 where the text is missing. */
      readonly counts: readonly Float64Array[];
    };

/**
 * The features of rows of a table by a recipe. A level that was not seen is a missing cell, unless there is a level for
 * all others.
 *
 * @throws SieveError `no-such-column`
 */
export function applyRecipe(recipe: Recipe, table: Table, rows: Int32Array): Feature[] {
  return recipe.features.map((feature): Feature => {
    const column = takeRows(columnNamed(table, feature.name), rows);
    const { name } = feature;
    switch (feature.kind) {
      case 'number':
        return {
          kind: 'number',
          name,
          fill: feature.fill,
          values: isCoded(column) ? new Float64Array(rows.length).fill(NaN) : numbersOf(column),
        };
      case 'category': {
        const placeOf = new Map(feature.levels.map((level, place) => [level, place]));
        const unseen = feature.rest ? feature.levels.length - 1 : -1;
        const levels = isCoded(column) ? column.levels : [];
        const places = levels.map((level) => placeOf.get(level) ?? unseen);
        const codes = new Int32Array(rows.length).fill(-1);
        if (isCoded(column))
          for (let i = 0; i < codes.length; i++) codes[i] = places[column.codes[i] ?? -1] ?? -1;
        return { kind: 'category', name, levels: feature.levels, codes, fill: feature.fill };
      }
      case 'words': {
        const levels = isCoded(column) ? column.levels : [];
        const counts = feature.words.map((word) => {
          const ofLevel = countsOfWord(levels, word);
          const values = new Float64Array(rows.length);
          if (isCoded(column))
            for (let i = 0; i < values.length; i++) values[i] = ofLevel[column.codes[i] ?? -1] ?? 0;
          return values;
        });
        return { kind: 'words', name, words: feature.words, counts };
      }
    }
  });
}
