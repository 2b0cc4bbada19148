import { SieveError } from '../../foundation/errors.js';
import { FOLDS_SLIPS, SPLIT_SLIPS } from '../questions/assignments/assignment-slips.js';
import { IN_SAMPLE_SLIP } from '../questions/folds/in-sample-slip.js';
import { CURVE_SLIPS } from '../questions/curve/curve-slips.js';
import { MODEL_SLIPS } from '../questions/model/model-slips.js';
import { PREDICTION_SLIPS } from '../questions/predictions/prediction-slips.js';
import { UNREAD_PREDICTION_SLIPS } from '../questions/predictions/unread-predictions.js';
import { UNREAD_FOLDS_SLIPS, UNREAD_SPLIT_SLIPS } from '../questions/assignments/unread-rows.js';
import type { Slip } from './contract/slip.js';
import { VALUE_SLIPS } from './values/registry.js';

/** Mistakes that are known, by the kind of question in which they are made. */
export const SLIPS_BY_KIND: Readonly<Record<string, readonly Slip[]>> = {
  values: VALUE_SLIPS,
  predictions: [...PREDICTION_SLIPS, ...UNREAD_PREDICTION_SLIPS],
  model: MODEL_SLIPS,
  split: [...SPLIT_SLIPS, ...UNREAD_SPLIT_SLIPS],
  folds: [...FOLDS_SLIPS, IN_SAMPLE_SLIP, ...UNREAD_FOLDS_SLIPS],
  curve: CURVE_SLIPS,
};

const BY_ID: ReadonlyMap<string, Slip> = new Map(
  Object.values(SLIPS_BY_KIND).flatMap((slips) => slips.map((slip) => [slip.id, slip] as const)),
);

/** @throws SieveError `no-such-slip` */
export function slipOf(id: string): Slip {
  const slip = BY_ID.get(id);
  if (!slip) throw new SieveError('no-such-slip', `There is no slip “${id}”.`);
  return slip;
}
