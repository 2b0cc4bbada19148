import type { Predictions } from '../../files/reader.js';
import { shortNumber } from '../../../foundation/numbers.js';
import { fileSlip } from '../../slips/contract/file-slip.js';
import type { RowsKey } from '../assignments/key.js';
import { inSampleShare } from '../refits/refit.js';

/** Out-of-fold predictions that were handed in with folds. */
interface PredictedFolds {
  readonly folds: Int32Array;
  readonly k: number;
  readonly predictions: Predictions | null;
  readonly key: RowsKey;
  /** Ids of the checks that fail. */
  readonly fails: readonly string[];
}

/** How closely they must go with those of a model that was fitted to all rows. */
const IN_SAMPLE = 0.9;

export const IN_SAMPLE_SLIP = fileSlip<PredictedFolds>({
  id: 'in-sample-predictions',
  title: 'predictions of the rows that were fitted',
  from: 'form',
  says: 'Your predictions are those of a model that was fitted to all rows.',
  remedy:
    'Fit the model once for each fold, to the rows of the others, and predict the rows of the fold. A model that has seen a row says too well what it is.',
  example: 'A nearest neighbour is right on every row that it was fitted to, and on three of four of a fold.',
  test({ folds, k, predictions, fails, key: { truth, refit } }) {
    if (!predictions || !truth || !refit || !fails.includes('refit')) return null;
    const share = inSampleShare(refit, truth, predictions, folds, k);
    return share !== null && share >= IN_SAMPLE
      ? `correlation ${shortNumber(share, 3)} with what a model of all rows differs by`
      : null;
  },
});
