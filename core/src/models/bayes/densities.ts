import { histogramOf } from '../../foundation/statistics/histogram.js';
import { at } from '../../foundation/numbers.js';
import type { Feature } from '../prepared/recipe.js';
import type { ClassTarget } from '../prepared/target.js';
import { kernelDensity } from './predict.js';
import type { BayesPart, BayesState } from './state.js';

const POINTS = 80;

/** How a feature of numbers is spread in each class, and the density that naive Bayes makes of it. */
export interface FeatureDensity {
  readonly feature: string;
  readonly bars: readonly { readonly from: number; readonly to: number }[];
  readonly classes: readonly {
    readonly label: string;
    /** Rows in each bar. */
    readonly rows: readonly number[];
    readonly curve: readonly { readonly x: number; readonly y: number }[];
  }[];
}

/** Densities over histograms, for every feature of numbers that has a density of its own. */
export function densitiesOf(
  state: BayesState,
  features: readonly Feature[],
  target: ClassTarget,
): FeatureDensity[] {
  return state.parts.flatMap((part) => {
    const feature = features[part.place];
    if (feature?.kind !== 'number' || !isDensity(part)) return [];
    const present = feature.values.filter((value) => !Number.isNaN(value));
    const bars = histogramOf(present);
    const [first, last] = [bars[0], bars.at(-1)];
    if (!first || !last) return [];
    const width = first.to - first.from;
    return [
      {
        feature: feature.name,
        bars: bars.map(({ from, to }) => ({ from, to })),
        classes: target.labels.map((label, code) => ({
          label,
          rows: rowsIn(feature.values, target.codes, code, first.from, width, bars.length),
          curve: Array.from({ length: POINTS }, (_, i) => {
            const x = first.from + ((last.to - first.from) * i) / (POINTS - 1);
            return { x, y: densityAt(part, code, x) };
          }),
        })),
      },
    ];
  });
}

type DensityPart = Extract<BayesPart, { kind: 'normal' | 'kernel' }>;

const isDensity = (part: BayesPart): part is DensityPart =>
  part.kind === 'kernel' || (part.kind === 'normal' && part.of === 'feature');

function densityAt(part: DensityPart, label: number, x: number): number {
  if (part.kind === 'kernel') return kernelDensity(at(part.classes, label), x);
  const variance = at(part.variances, label);
  return Math.exp(-((x - at(part.means, label)) ** 2) / (2 * variance)) / Math.sqrt(2 * Math.PI * variance);
}

function rowsIn(
  values: Float64Array,
  codes: Int32Array,
  code: number,
  from: number,
  width: number,
  bars: number,
): number[] {
  const counts = new Array<number>(bars).fill(0);
  values.forEach((value, row) => {
    if (codes[row] !== code || Number.isNaN(value)) return;
    const bar = Math.min(bars - 1, Math.floor((value - from) / width));
    counts[bar] = (counts[bar] ?? 0) + 1;
  });
  return counts;
}
