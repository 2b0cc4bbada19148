import { at } from '../../../foundation/numbers.js';
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

/** Units that differ by so much: thousands, hundreds, tens, minutes or seconds, pounds and kilograms. */
const FACTORS = [1000, 100, 10, 60, 2.20462];
/** How far the slope of the truth on what is predicted may be from 1 under the hypothesis, so that another factor is not taken for one of these. */
const MOST_SLOPE = 1.25;
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

/** Slope of the least-squares line of one on another. */
function slopeOf(y: Float64Array, x: Float64Array): number {
  const [{ mean: my }, { mean: mx, sd }] = [spread(y), spread(x)];
  return x.reduce((all, value, row) => all + (value - mx) * (at(y, row) - my), 0) / x.length / sd ** 2;
}

/** Share of the mean, or standard errors, by which predictions in the right unit may be off on average. */
const MEAN_WITHIN = 0.02;
const MEAN_ERRORS = 3;

/** Whether numbers are the truth on average, as those of a fitted model are in the unit of the target. */
function hasMeanOf(predicted: Float64Array, truth: Float64Array): boolean {
  const { mean, sd } = spread(predicted.map((value, row) => value - at(truth, row)));
  const error = sd / Math.sqrt(truth.length);
  return Math.abs(mean) <= Math.max(MEAN_ERRORS * error, MEAN_WITHIN * Math.abs(spread(truth).mean));
}

const sum = (values: Float64Array): number => values.reduce((a, b) => a + b, 0);

/** The rescaling under which a file of numbers is nearest the truth, where that is beyond chance. */
export function rescaled(file: PredictedFile): Found | null {
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
  const slope = slopeOf(key.values, other.predicted);
  if (slope > MOST_SLOPE || slope < 1 / MOST_SLOPE) return null;
  if (best.slip === 'factor-of-unit' && !hasMeanOf(other.predicted, key.values)) return null;
  const ahead = better(file, other);
  return ahead === null ? null : { slip: best.slip, evidence: `${best.says} is ${leadWords(ahead)}` };
}
