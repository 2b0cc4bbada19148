import { at } from '../../foundation/numbers.js';
import type { Feature } from '../prepared/recipe.js';

/** A column that a tree can split rows by. */
export type TreeColumn =
  | {
      readonly kind: 'number';
      readonly name: string;
      readonly feature: string;
      readonly values: Float64Array;
    }
  | {
      readonly kind: 'category';
      readonly name: string;
      readonly feature: string;
      readonly levels: readonly string[];
      readonly codes: Int32Array;
    };

/** Features as a tree sees them: each word of a text is a column of numbers. */
export const treeColumns = (features: readonly Feature[]): TreeColumn[] =>
  features.flatMap((feature): TreeColumn[] => {
    const { name } = feature;
    switch (feature.kind) {
      case 'number':
        return [{ kind: 'number', name, feature: name, values: feature.values }];
      case 'category':
        return [{ kind: 'category', name, feature: name, levels: feature.levels, codes: feature.codes }];
      case 'words':
        return feature.words.map((word, w) => ({
          kind: 'number',
          name: `${name}: ${word}`,
          feature: name,
          values: at(feature.counts, w),
        }));
    }
  });
