import { losses, better, leadWords, type PredictedFile } from './paired.js';
import type { Predictions } from '../../files/reader.js';

/** Mean and deviation of numbers. */
function spread(values: Float64Array): { mean: number; sd: number } {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return { mean, sd: Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length) };
}

/** A number in another unit or on another scale, and the slip that it would be. */
export interface Rescaling {
  readonly slip: 'logarithm-of-target' | 'factor-of-unit' | 'standardised-target';
  readonly says: string;
  readonly turn: (value: number) => number;
}

const FACTORS = [1000, 100, 10, 60, 24, 12, 2.20462, 1.8];
const RESCALINGS: readonly Rescaling[] = [
  ...(
    [
      ['e to the power of it', Math.exp],
      ['e to the power of it, less 1', Math.expm1],
      ['10 to the power of it', (value: number) => 10 ** value],
      ['2 to the power of it', (value: number) => 2 ** value],
    ] as const
  ).map(([says, turn]) => ({ slip: 'logarithm-of-target' as const, says, turn })),
  ...FACTORS.flatMap((factor) => [
    { slip: 'factor-of-unit' as const, says: `${factor} times it`, turn: (value: number) => value * factor },
    { slip: 'factor-of-unit' as const, says: `it over ${factor}`, turn: (value: number) => value / factor },
  ]),
];

/** The rescaling under which a file of numbers is nearest the truth, where that is beyond chance. */
export function rescaled(
  file: PredictedFile,
): { readonly slip: Rescaling['slip']; readonly evidence: string } | null {
  const { predictions, key } = file;
  if (predictions.kind !== 'numbers' || !key.values) return null;
  const own = spread(predictions.predicted);
  const truth = spread(key.values);
  const isStandard = Math.abs(own.mean) < 1 && own.sd > 0.05 && own.sd < 2 && Math.abs(truth.mean) > 3;
  const all: readonly Rescaling[] = [
    ...RESCALINGS,
    ...(isStandard
      ? [
          {
            slip: 'standardised-target' as const,
            says: 'it times the deviation, and the mean',
            turn: (value: number) => value * truth.sd + truth.mean,
          },
        ]
      : []),
  ];
  let best: { slip: Rescaling['slip']; evidence: string; loss: number } | null = null;
  for (const { slip, says, turn } of all) {
    const other: Predictions = { kind: 'numbers', predicted: predictions.predicted.map(turn) };
    if (!other.predicted.every(Number.isFinite)) continue;
    const ahead = better(file, other);
    const loss = losses(other, key).reduce((a, b) => a + b, 0);
    // Under the hypothesis it must be better than the mean, not only less wrong than before.
    if (ahead === null || loss >= truth.sd ** 2 * key.values.length || (best && best.loss <= loss)) continue;
    best = { slip, evidence: `${says} is ${leadWords(ahead)}`, loss };
  }
  return best;
}
