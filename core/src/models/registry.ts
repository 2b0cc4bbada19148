import { SieveError } from '../foundation/errors.js';
import { checkPlanned, kindIn, newPlan, type Plan } from '../data/sentence/sentence.js';
import type { ColumnInfo } from '../data/sentence/parameter.js';
import type { Task } from '../data/table/roles.js';
import { bagging } from './combined/bagging.js';
import { combination } from './combined/combination.js';
import type { StateForm } from './contract/state.js';
import type { Hyperparameter, ModelFamily } from './contract/family.js';
import { BASELINE_KINDS, LEARNERS } from './learners/learners.js';

export const BASELINES: readonly string[] = BASELINE_KINDS.map(({ key }) => key);

/** Every family of models, in the order in which a menu has them. Server, desk, command line and documentation use this list. */
export const MODEL_FAMILIES: readonly ModelFamily[] = [...LEARNERS, bagging, combination];

/** The forms of what models learn. */
export const STATE_FORMS: readonly StateForm[] = [...new Set(MODEL_FAMILIES.flatMap(({ forms }) => forms))];

/** The families that predict for a task. */
export const modelFamiliesFor = (task: Task): ModelFamily[] =>
  MODEL_FAMILIES.filter((kind) => kind.tasks.includes(task));

/** @throws SieveError `plan-kind` */
export const modelFamilyOf = (model: Pick<Plan, 'kind'>): ModelFamily =>
  kindIn(MODEL_FAMILIES, model.kind, 'model');

/**
 * Makes sure that a model is of a family that predicts for the task, and its settings are what it takes.
 *
 * @throws SieveError `plan-kind`, `plan-value`, `no-such-column`
 */
export function checkModel(model: Plan, task: Task, columns: readonly ColumnInfo[]): ModelFamily {
  const kind = modelFamilyOf(model);
  if (!kind.tasks.includes(task))
    throw new SieveError('plan-kind', `${kind.title} does not predict for this task.`, { field: 'kind' });
  checkPlanned(kind, model, columns);
  kind.checkValues?.(model.values, task, columns);
  return kind;
}

/** A model of a family with the settings that it begins with, and those that are given. */
export const modelOf = (key: string, values: Plan['values'] = {}): Plan => {
  const begun = newPlan(modelFamilyOf({ kind: key }), []);
  return { ...begun, values: { ...begun.values, ...values } };
};

/**
 * The setting of a family over which a curve runs.
 *
 * @throws SieveError `plan-value`
 */
export function hyperparameterOf(kind: ModelFamily, key: string): Hyperparameter {
  const found = kind.hyperparameters.find((one) => one.key === key);
  if (!found)
    throw new SieveError('plan-value', `${kind.title} has no curve over ${key}.`, { field: 'vary' });
  return found;
}
