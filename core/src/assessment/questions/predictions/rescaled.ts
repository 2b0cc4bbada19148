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

/** Rows by which the nearest rescaling is chosen, before it is held against all. */
const SAMPLE = 2000;

interface Found {
  readonly slip: Rescaling['slip'];
  readonly evidence: string;
}

/** What was found of a file, which several slips ask for. */
const known = new WeakMap<Predictions, Found | null>();

/** The rescaling under which a file of numbers is nearest the truth, where that is beyond chance. */
export function rescaled(file: PredictedFile): Found | null {
  const before = known.get(file.predictions);
  if (before !== undefined) return before;
  const found = nearestRescaling(file);
  known.set(file.predictions, found);
  return found;
}

const sum = (values: Float64Array): number => values.reduce((a, b) => a + b, 0);

function nearestRescaling(file: PredictedFile): Found | null {
  const { predictions, key } = file;
  if (predictions.kind !== 'numbers' || !key.values) return null;
  const truth = spread(key.values);
  const limit = truth.sd ** 2 * key.values.length;
  // What is better than the mean of the truth is on its scale.
  if (sum(losses(predictions, key)) < limit) return null;
  const own = spread(predictions.predicted);
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
  const step = Math.max(1, Math.floor(key.values.length / SAMPLE));
  const isSampled = (_: number, row: number) => row % step === 0;
  const sample = predictions.predicted.filter(isSampled);
  const sampledKey = { ...key, values: key.values.filter(isSampled) };
  const lossOf = ({ turn }: Rescaling): number => {
    const loss = sum(losses({ kind: 'numbers', predicted: sample.map(turn) }, sampledKey));
    return Number.isFinite(loss) ? loss : Infinity;
  };
  const best = all
    .map((rescaling) => ({ rescaling, loss: lossOf(rescaling) }))
    .reduce((so, one) => (one.loss < so.loss ? one : so)).rescaling;
  const other: Predictions = { kind: 'numbers', predicted: predictions.predicted.map(best.turn) };
  // Under the hypothesis it must be better than the mean, not only less wrong than before.
  if (!other.predicted.every(Number.isFinite) || sum(losses(other, key)) >= limit) return null;
  const ahead = better(file, other);
  return ahead === null ? null : { slip: best.slip, evidence: `${best.says} is ${leadWords(ahead)}` };
}
