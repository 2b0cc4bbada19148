import type { Roles, Table } from '@modest-sieve/core/data';
import { makeFolds, testRows, type FoldSentence } from '@modest-sieve/core/splitting';
import { figureOf } from '@modest-sieve/core/metrics';
import {
  judgedBy,
  predictRows,
  readFitted,
  targetOf,
  targetRows,
  weightsOf,
  type Fitted,
} from '@modest-sieve/core/models';
import { trialMetrics, type Figures, type TrialPlan } from '@modest-sieve/core/evaluation';
import type { EvidenceRows } from '../api/api.js';
import { rowsForFolds } from '../store/fold-rows.js';
import { tableOf, type StoredTable } from '../store/stored-table.js';

/** The material of a trial: a version, its roles, the split whose training rows the folds are of, the folds' plan. */
export interface TrialMaterial {
  readonly stored: StoredTable;
  readonly roles: Roles;
  /** Null where the folds are of all rows that take part. */
  readonly parts: Int8Array | null;
  readonly folds: FoldSentence;
  readonly plan: TrialPlan;
}

/** Predictions of the rows of the first repeat, each by the model of the fold that held it back. */
export interface OutOfFold {
  readonly rows: Int32Array;
  readonly predicted: readonly Float64Array[];
}

/** Parts of a split, by their place in an assignment. */
const PART: Readonly<Record<Exclude<EvidenceRows, 'folds'>, number>> = {
  training: 0,
  validation: 1,
  'held-out': 2,
};

/** The table of a trial, what is fitted, and its folds. */
export function opened({ stored, roles, parts, folds, plan }: TrialMaterial) {
  const table = tableOf(stored);
  const { asked, usable } = rowsForFolds(table, roles, parts, folds);
  const rows = Int32Array.from(usable.keys()).filter((row) => usable[row] === 1);
  const request = {
    table,
    model: plan.model,
    task: roles.task,
    targetName: roles.target,
    group: roles.group,
    target: targetOf(table, roles),
    features: plan.features,
    screening: plan.screening ?? null,
    rows,
    weights: weightsOf(table, plan.weight),
    seed: plan.seed,
  };
  return { table, request, makeFolds: () => makeFolds(table, asked, usable) };
}

/** The chosen setting of a run, and the folds of its first repeat. */
export function chosenSetting(material: TrialMaterial, fitted: string) {
  const { request, makeFolds: make } = opened(material);
  const assigned = make();
  const folds = Array.from({ length: assigned.count }, (_, fold) => ({
    training: assigned.training(0, fold),
    test: testRows(assigned, 0, fold),
  }));
  return { request: { ...request, model: readFitted(fitted).model }, folds };
}

/** The rows of a part; of the training part those that take part where there is no split. */
export function rowsOf(
  material: Pick<TrialMaterial, 'parts'>,
  on: keyof typeof PART,
  all: Int32Array,
): Int32Array {
  const { parts } = material;
  if (!parts) return on === 'training' ? all : new Int32Array();
  return Int32Array.from(parts.keys()).filter((row) => parts[row] === PART[on]);
}

/** Figures of a fitted model on rows. */
export const figuresOn = (
  fitted: Fitted,
  table: Table,
  roles: Roles,
  rows: Int32Array,
  metrics = trialMetrics(roles.task),
): Figures => {
  const target = targetRows(targetOf(table, roles), rows);
  const judged = judgedBy(target, predictRows(fitted, table, rows));
  return Object.fromEntries(metrics.map((metric) => [metric.key, figureOf(metric, judged)]));
};
