import { check, type Check } from '../../foundation/check.js';
import { normalTwoSided, studentTwoSided } from '../../foundation/statistics/distributions.js';
import { at, counted, shortNumber } from '../../foundation/numbers.js';
import type { LabelData } from '../metric.js';

/** Share of false alarms of both tests together. */
const LEVEL = 0.05;
/** Groups below which nothing is judged: common practice. */
const LEAST_GROUPS = 10;

/** A sum over rows in deviations of what it would be if the probabilities were right, with its p-value. */
interface Deviation {
  readonly z: number;
  readonly p: number;
}

/**
 * Whether probabilities of the positive class agree with what came true: their mean, and the squared errors that they claim
 * (Spiegelhalter, Statistics in Medicine 5, 1986). Each is tested at 2.5 %. Rows of one group are summed first, and the
 * variance is that of the sums, since such rows resemble one another.
 *
 * @param data of a binary task; null is returned without probabilities
 * @param groups code of the group of each row; null where rows are independent
 */
export function calibrationSays(data: LabelData, groups: Int32Array | null = null): Check | null {
  const label = data.positive ?? data.labels.length - 1;
  const probabilities = data.probabilities?.[label];
  if (!probabilities || probabilities.length === 0) return null;
  const n = probabilities.length;
  const say = (outcome: Check['outcome'], message: string, measured: string) =>
    check('calibration', outcome, message, { measured });
  const clusters = groups ? new Set(groups).size : n;
  if (groups && clusters < LEAST_GROUPS)
    return say(
      'unsure',
      'Whether the probabilities are calibrated could not be judged',
      `rows come in ${counted(clusters, 'group')}; at least ${LEAST_GROUPS} are needed`,
    );
  const miss = Float64Array.from(probabilities, (p, row) => (data.truth[row] === label ? 1 : 0) - p);
  const weighted = miss.map((value, row) => value * (1 - 2 * at(probabilities, row)));
  const claimed = probabilities.map((p) => p * (1 - p));
  const overall = deviation(miss, claimed, groups);
  const squared = deviation(
    weighted,
    claimed.map((value, row) => value * (1 - 2 * at(probabilities, row)) ** 2),
    groups,
  );
  const rows = `on ${counted(n, 'row')}${groups ? ` in ${counted(clusters, 'group')}` : ''}`;
  const measured = (of: Deviation) => `z ${shortNumber(of.z, 3)}, p ${shortNumber(of.p, 2)} ${rows}`;
  if (overall.p < LEVEL / 2)
    return say(
      'fails',
      overall.z > 0 ? 'Probabilities are too low overall' : 'Probabilities are too high overall',
      measured(overall),
    );
  if (squared.p < LEVEL / 2)
    return say(
      'fails',
      squared.z > 0
        ? 'Errors are larger than the probabilities claim: they are too extreme'
        : 'Errors are smaller than the probabilities claim: they are too cautious',
      measured(squared),
    );
  return say('holds', 'Probabilities are not shown to be off', measured(squared));
}

/** @param variances of the values, if the probabilities are right; not used where rows are summed by group */
function deviation(values: Float64Array, variances: Float64Array, groups: Int32Array | null): Deviation {
  const total = sum(values);
  if (!groups) {
    const deviations = Math.sqrt(sum(variances));
    // Nothing but 0 and 1 was predicted: one miss disproves it.
    const z = deviations > 0 ? total / deviations : total === 0 ? 0 : Math.sign(total) * Infinity;
    return { z, p: normalTwoSided(z) };
  }
  const sums = new Map<number, number>();
  values.forEach((value, row) => sums.set(at(groups, row), (sums.get(at(groups, row)) ?? 0) + value));
  const own = Float64Array.from(sums.values());
  const g = own.length;
  const mean = total / g;
  const spread = Math.sqrt((g / (g - 1)) * sum(own.map((value) => (value - mean) ** 2)));
  const z = spread > 0 ? total / spread : total === 0 ? 0 : Math.sign(total) * Infinity;
  return { z, p: studentTwoSided(z, g - 1) };
}

const sum = (values: Float64Array): number => values.reduce((total, value) => total + value, 0);
