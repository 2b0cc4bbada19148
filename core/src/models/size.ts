import { leafCount } from './tree/state.js';
import type { Fitted } from './fitted.js';

/** How large a model is, in what its family is counted by. */
export interface ModelSize {
  readonly count: number;
  readonly of: 'coefficients' | 'leaves' | 'features';
}

/** Coefficients that are not 0, leaves of a tree, else features that are used; null for a baseline. */
export function sizeOf({ state, recipe }: Pick<Fitted, 'state' | 'recipe'>): ModelSize | null {
  const nonzero = (slopes: readonly number[]) => slopes.filter((slope) => slope !== 0).length;
  switch (state.form) {
    case 'constant':
      return null;
    case 'linear':
      return { count: nonzero(state.slopes), of: 'coefficients' };
    case 'logits':
      return { count: state.slopes.reduce((sum, slopes) => sum + nonzero(slopes), 0), of: 'coefficients' };
    case 'tree':
      return { count: leafCount(state), of: 'leaves' };
    case 'bayes':
    case 'neighbours':
      return { count: recipe.features.length, of: 'features' };
  }
}
