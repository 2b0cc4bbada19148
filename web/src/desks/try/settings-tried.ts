import { curveHyperparameter } from '@modest-sieve/core/evaluation';
import type { ModelFamily } from '@modest-sieve/core/models';
import type { TrialDraft } from './draft.js';
import { settingsIn } from './typed-values.js';

/** How many settings a curve or grid has; null where that is not known before the data are looked at. */
export function settingsTried(vary: TrialDraft['vary'], kind: ModelFamily): number | null {
  return vary.reduce<number | null>((product, { key, text }) => {
    const typed = settingsIn(text);
    if (product === null || typeof typed === 'string') return null;
    const values = typed.length > 0 ? typed : curveHyperparameter(kind, key).settings;
    return values === 'path' ? null : product * values.length;
  }, 1);
}
