import { SieveError } from '../errors.js';
import { checkPlanned, kindIn, newPlan, type Planned } from '../sentence/sentence.js';
import type { Kinded } from '../sentence/parameter.js';
import type { Task } from '../table/roles.js';
import { classShares, mean, median, mostFrequent } from './baselines.js';
import { naiveBayes } from './bayes/naive-bayes.js';
import { linearRegression } from './linear/linear.js';
import { logisticRegression } from './linear/logistic.js';
import type { Along, ModelKind } from './model.js';
import { nearest } from './nearest.js';
import { elasticNet, lasso, ridge } from './penalised/penalised.js';
import { decisionTree } from './tree/tree.js';

/** Families that learn nothing from features: what every other model must beat. */
const BASELINE_KINDS: readonly ModelKind[] = [mostFrequent, classShares, mean, median];

export const BASELINES: readonly string[] = BASELINE_KINDS.map(({ key }) => key);

/** Every family of models, in the order in which a menu has them. Server, desk, command line and documentation use this list. */
export const MODEL_KINDS: readonly ModelKind[] = [
  ...BASELINE_KINDS,
  linearRegression,
  logisticRegression,
  ridge,
  lasso,
  elasticNet,
  nearest,
  naiveBayes,
  decisionTree,
];

/** The families that predict for a task. */
export const modelKindsFor = (task: Task): ModelKind[] =>
  MODEL_KINDS.filter((kind) => kind.tasks.includes(task));

/** @throws SieveError `plan-kind` */
export const modelKindOf = (model: Pick<Planned, 'kind'>): ModelKind =>
  kindIn(MODEL_KINDS, model.kind, 'model');

/**
 * Makes sure that a model is of a family that predicts for the task, and its settings are what it takes.
 *
 * @throws SieveError `plan-kind`, `plan-value`, `no-such-column`
 */
export function checkModel(model: Planned, task: Task, columns: readonly Kinded[]): ModelKind {
  const kind = modelKindOf(model);
  if (!kind.tasks.includes(task))
    throw new SieveError('plan-kind', `${kind.title} does not predict for this task.`, { field: 'kind' });
  checkPlanned(kind, model, columns);
  return kind;
}

/** A model of a family with the settings that it begins with, and those that are given. */
export const modelOf = (key: string, values: Planned['values'] = {}): Planned => {
  const begun = newPlan(modelKindOf({ kind: key }), []);
  return { ...begun, values: { ...begun.values, ...values } };
};

/**
 * The setting of a family along which a curve runs.
 *
 * @throws SieveError `plan-value`
 */
export function alongOf(kind: ModelKind, key: string): Along {
  const along = kind.along.find((one) => one.key === key);
  if (!along)
    throw new SieveError('plan-value', `${kind.title} has no curve along ${key}.`, { field: 'vary' });
  return along;
}
