import { at } from '../foundation/numbers.js';
import type { Labelled } from '../data/table/labels.js';
import { figureOf, resampled, type Judged } from './judged.js';
import type { Figure, Metric } from './metric.js';

/** The figures of the rows that share a value. */
export interface SubgroupFigures {
  readonly value: string;
  readonly rows: number;
  readonly figures: Readonly<Record<string, Figure>>;
}

/** The same metrics for every value of a column, in label order; rows without a value take no part. */
export function bySubgroup(judged: Judged, values: Labelled, metrics: readonly Metric[]): SubgroupFigures[] {
  const members = values.labels.map(() => [] as number[]);
  values.codes.forEach((code, row) => {
    if (code >= 0) at(members, code).push(row);
  });
  return values.labels.map((value, code) => {
    const rows = Int32Array.from(at(members, code));
    const own = resampled(judged, rows);
    return {
      value,
      rows: rows.length,
      figures: Object.fromEntries(metrics.map((metric) => [metric.key, figureOf(metric, own)])),
    };
  });
}
