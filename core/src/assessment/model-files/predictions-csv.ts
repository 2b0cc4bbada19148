import { writeRecords } from '../../data/formats/csv/write.js';
import type { ModelPredictions } from './model-file.js';

/** A share of a row; null where there is none. */
export const finiteShare = (value: number | undefined): number | null =>
  value !== undefined && Number.isFinite(value) ? value : null;

/**
 * Predictions as CSV: the identifier, `prediction`, and `p:LABEL` for each class.
 *
 * @param name of the identifier's column
 */
export function predictionsCsv(
  { values, probabilities }: ModelPredictions,
  name: string,
  identifiers: readonly string[],
): string {
  const labels = probabilities?.labels ?? [];
  const text = (value: number | string | null) => (value === null ? null : String(value));
  return writeRecords(
    [name, 'prediction', ...labels.map((label) => `p:${label}`)],
    identifiers.map((id, row) => [
      id,
      text(values[row] ?? null),
      ...labels.map((_, i) => text(finiteShare(probabilities?.values[i]?.[row]))),
    ]),
  );
}
