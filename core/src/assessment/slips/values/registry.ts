import { CLASSIFICATION_SLIPS } from './classification.js';
import { INFERENCE_SLIPS } from './inference.js';
import { PROBABILITY_SLIPS } from './probabilities.js';
import { REGRESSION_SLIPS } from './regression.js';
import { RESAMPLING_SLIPS } from './resampling.js';
import type { ValueSlip, Workings } from './value-slip.js';

/** Mistakes in computing a figure. */
export const VALUE_SLIPS: readonly ValueSlip[] = [
  ...CLASSIFICATION_SLIPS,
  ...PROBABILITY_SLIPS,
  ...REGRESSION_SLIPS,
  ...RESAMPLING_SLIPS,
  ...INFERENCE_SLIPS,
];

/** What a figure would be under each mistake that can be made in it, by the slip. */
export function mistakesIn(asked: string, workings: Workings): Record<string, readonly number[]> {
  const all: Record<string, readonly number[]> = {};
  for (const slip of VALUE_SLIPS) {
    const values = slip.answers(asked, workings).filter(Number.isFinite);
    if (values.length > 0) all[slip.id] = values;
  }
  return all;
}
