import type { Training } from './sample.js';
import { classWeights } from '../prepared/target.js';

/** Classes of the target that no training row is of. */
export function absent({ target, weights }: Pick<Training, 'target' | 'weights'>): string[] {
  if (target.kind === 'numbers') return [];
  const missing = target.labels.filter((_, label) => classWeights(target, weights)[label] === 0);
  return missing.length === 0
    ? []
    : [
        `No training row is of ${missing.join(', ')}, so no row is predicted to be: rows of ${missing.length === 1 ? 'that class' : 'those classes'} count as wrong.`,
      ];
}
