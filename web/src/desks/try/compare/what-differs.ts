import { count } from '@modest-sieve/core/foundation';
import type { Schemas } from '../../../api/client.js';
import { screeningText } from '../columns/screens.js';
import { foldsText } from '../draft.js';

/** As much of a run as is compared. */
export interface ComparedRun extends Pick<Schemas['TrialInfo'], 'foldSetId' | 'version'> {
  readonly plan: Pick<Schemas['TrialInfo']['plan'], 'features' | 'screening' | 'weight'>;
  readonly result:
    | (Pick<Schemas['TrialOutcome'], 'rows'> & {
        readonly chosen: Pick<Schemas['TrialOutcome']['chosen'], 'metrics'>;
      })
    | null;
}

/** Names that are shown of a list. */
const MOST_NAMES = 6;

const named = (names: readonly string[]): string =>
  names.length > MOST_NAMES
    ? `${names.slice(0, MOST_NAMES).join(', ')} and ${names.length - MOST_NAMES} more`
    : names.join(', ');

/**
 * What two runs differ in beside their models, as phrases: the version, the folds, the rows, the features, which of
 * them a screening keeps, the weight.
 *
 * @param foldSets those of the version that is open; others are known by their number of folds alone
 */
export function whatDiffers(
  first: ComparedRun,
  second: ComparedRun,
  foldSets: readonly Schemas['FoldSetInfo'][],
): readonly string[] {
  const folds = ({ foldSetId, result }: ComparedRun) => {
    const known = foldSets.find(({ id }) => id === foldSetId);
    return known
      ? foldsText(known)
      : `${Object.values(result?.chosen.metrics ?? {})[0]?.folds.length ?? 0} folds of its version`;
  };
  const rows = ({ result }: ComparedRun) => count(result?.rows ?? 0);
  const only = (one: ComparedRun, other: ComparedRun) =>
    one.plan.features.filter((name) => !other.plan.features.includes(name));
  const kept = ({ plan }: ComparedRun) => screeningText(plan.screening) || 'all of its features';
  const [mine, theirs] = [only(first, second), only(second, first)];
  return [
    first.version === second.version ? null : `version ${first.version}, the other ${second.version}`,
    first.foldSetId === second.foldSetId ? null : `${folds(first)}, the other ${folds(second)}`,
    rows(first) === rows(second) ? null : `${rows(first)} training rows, the other ${rows(second)}`,
    mine.length === 0 ? null : `${named(mine)} in this run alone`,
    theirs.length === 0 ? null : `${named(theirs)} in the other alone`,
    kept(first) === kept(second) ? null : `${kept(first)}, the other ${kept(second)}`,
    first.plan.weight === second.plan.weight
      ? null
      : `weighted by ${first.plan.weight ?? 'nothing'}, the other by ${second.plan.weight ?? 'nothing'}`,
  ].filter((one) => one !== null);
}
