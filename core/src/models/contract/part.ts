import { at } from '../../foundation/numbers.js';
import type { Random } from '../../foundation/random/random.js';
import type { Sample, Training } from './sample.js';
import { designOf } from '../prepared/design.js';
import type { Feature } from '../prepared/recipe.js';
import { targetRows } from '../prepared/target.js';

/** Features of rows as a sample. */
export function sampleFrom(features: readonly Feature[], rowCount: number): Sample {
  let design: ReturnType<typeof designOf> | null = null;
  return { rowCount, features, design: () => (design ??= designOf(features, rowCount)) };
}

/** Rows of a sample, by their places there and each as often as it is named. */
export function samplePart({ features }: Sample, rows: Int32Array): Sample {
  const numbers = (values: Float64Array) => Float64Array.from(rows, (row) => at(values, row));
  const taken = features.map((feature): Feature => {
    if (feature.kind === 'number') return { ...feature, values: numbers(feature.values) };
    if (feature.kind === 'words') return { ...feature, counts: feature.counts.map(numbers) };
    return { ...feature, codes: rows.map((row) => at(feature.codes, row)) };
  });
  return sampleFrom(taken, rows.length);
}

/** Training rows, by their places among the given ones and each as often as it is named. */
export function trainingPart(training: Training, rows: Int32Array, random: Random): Training {
  const { target, weights, groups, helpers } = training;
  return {
    ...samplePart(training, rows),
    target: targetRows(target, rows),
    weights: weights && Float64Array.from(rows, (row) => at(weights, row)),
    groups: () => {
      const codes = groups();
      return codes && rows.map((row) => at(codes, row));
    },
    random,
    ...(helpers && { helpers }),
  };
}
