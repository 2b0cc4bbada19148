import { readCsv } from '../src/data/formats/csv/read.js';
import { fitModel, type Fitted, type FitRequest } from '../src/models/fitted.js';
import { modelOf } from '../src/models/registry.js';
import { targetOf } from '../src/models/prepared/target.js';
import { indices } from '../src/foundation/numbers.js';
import type { PlanValue } from '../src/data/sentence/parameter.js';
import type { Task } from '../src/data/table/roles.js';
import type { Table } from '../src/data/table/table.js';
import { testFile } from './files.js';

export interface ModelCase<E> {
  table: Table;
  expected: E;
  tolerance: number;
}

/** The data of a case of test/reference, and what it expects. */
export function modelCase(name: string): ModelCase<unknown> {
  const { table } = readCsv(testFile(`reference/${name}/data.csv`), { file: 'data.csv' });
  const { expected, tolerance } = JSON.parse(
    new TextDecoder().decode(testFile(`reference/${name}/expected.json`)),
  ) as ModelCase<unknown>;
  return { table, expected, tolerance };
}

/** A request to fit a model of a family to all rows of a table, from all columns but the target. */
export function request(
  table: Table,
  targetName: string,
  task: Task,
  kind: string,
  values: Record<string, PlanValue> = {},
  more: Partial<FitRequest> = {},
): FitRequest {
  return {
    table,
    model: modelOf(kind, values),
    task,
    targetName,
    target: targetOf(table, { target: targetName, task, positive: null }),
    features: table.columns.map(({ name }) => name).filter((name) => name !== targetName),
    rows: indices(table.rowCount),
    weights: null,
    group: null,
    seed: 1,
    ...more,
  };
}

export const fit = (...asked: Parameters<typeof request>): Fitted => fitModel(request(...asked));

/** How far a value is from what is expected: absolute up to 1, relative above. */
export const distance = (value: number | null | undefined, expected: number): number =>
  Math.abs((value ?? NaN) - expected) / Math.max(1, Math.abs(expected));

export const meanOf = (values: readonly number[]): number =>
  values.reduce((a, b) => a + b, 0) / values.length;

/** How many deviations of one of their seeds the mean of ours is away; a deviation is at least what one row of the data makes. */
export function deviations(own: readonly number[], theirs: readonly number[], least: number): number {
  const mean = meanOf(theirs);
  const spread = Math.sqrt(theirs.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (theirs.length - 1));
  return Math.abs(meanOf(own) - mean) / Math.max(spread, least);
}
