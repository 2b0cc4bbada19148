import { at } from '../../foundation/numbers.js';
import type { Predicted } from './state.js';

/** For each class its probabilities; a line, which is of the positive class alone, is cut at 0 and 1. */
export function chancesOf(predicted: Predicted, positive: number | null): Predicted {
  if (predicted.length > 1) return predicted;
  const own = at(predicted, 0).map((value) => Math.min(1, Math.max(0, value)));
  const other = own.map((value) => 1 - value);
  return positive === 0 ? [own, other] : [other, own];
}

/** Of two classes the positive one from 0.5 on, as a file of probabilities is read. */
export function likeliest(probabilities: Predicted, positive: number | null): Int32Array {
  const rows = probabilities[0]?.length ?? 0;
  const out = new Int32Array(rows);
  for (let row = 0; row < rows; row++) {
    let best = 0;
    for (let label = 1; label < probabilities.length; label++)
      if ((probabilities[label]?.[row] ?? 0) > (probabilities[best]?.[row] ?? 0)) best = label;
    if (positive !== null && (probabilities[positive]?.[row] ?? 0) >= 0.5) best = positive;
    out[row] = best;
  }
  return out;
}
