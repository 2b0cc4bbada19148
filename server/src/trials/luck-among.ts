import { columnNamed, labelsOf } from '@modest-sieve/core/data';
import { seededRandom } from '@modest-sieve/core/foundation';
import type { Metric } from '@modest-sieve/core/metrics';
import { luckOf, type Luck } from '@modest-sieve/core/evaluation';
import { judgedBy, targetRows } from '@modest-sieve/core/models';
import { opened, type OutOfFold, type TrialMaterial } from './trial-material.js';

const codesIn = (codes: Int32Array) => (row: number) => codes[row] ?? -1;

/** Of settings that predicted the same rows out of fold, how much of the best is luck; groups of the roles are drawn whole. */
export function luckAmong(
  material: TrialMaterial,
  settings: readonly OutOfFold[],
): (metric: Metric) => Luck | null {
  const { table, request } = opened(material);
  const { group } = material.roles;
  const rows = settings[0]?.rows ?? new Int32Array();
  const truth = targetRows(request.target, rows);
  const judged = settings.map(({ predicted }) => judgedBy(truth, predicted));
  const groups = group === null ? null : rows.map(codesIn(labelsOf(columnNamed(table, group)).codes));
  return (metric) => luckOf(judged, metric, groups, seededRandom(request.seed, 'luck'));
}
