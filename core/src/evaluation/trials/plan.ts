import { SieveError } from '../../foundation/errors.js';
import { hyperparameterOf, checkModel } from '../../models/registry.js';
import type { Hyperparameter, ModelFamily } from '../../models/contract/family.js';
import type { ColumnInfo, Parameter } from '../../data/sentence/parameter.js';
import type { Plan } from '../../data/sentence/sentence.js';
import type { Roles } from '../../data/table/roles.js';
import { trialMetrics } from './metrics.js';

/** One setting of a model and the values that are tried; no values means those that the family or the data suggest. */
export interface Varied {
  readonly key: string;
  readonly settings: readonly number[];
}

/** What is tried: a model on features, at one setting or along a curve, or over a grid of two. */
export interface TrialPlan {
  readonly model: Plan;
  readonly features: readonly string[];
  readonly vary: readonly Varied[];
  /** By which the best setting is judged. */
  readonly metric: string;
  /** Which setting is kept: the best, or the simplest within one standard error of it. */
  readonly choose: 'best' | 'simplest';
  /** The column whose numbers weigh rows while a model learns; null for 1 each. */
  readonly weight: string | null;
  readonly seed: number;
}

/** The key of a curve by training size: shares of the training rows, in percent. Every family has it. */
export const TRAINING_SHARE = 'training_share';
const SHARES: Hyperparameter = {
  key: TRAINING_SHARE,
  larger: 'complex',
  settings: [10, 20, 30, 40, 55, 70, 85, 100],
};

/**
 * What a curve may run along: the settings of a family, and the share of the training rows.
 *
 * @throws SieveError `plan-value`
 */
export const curveHyperparameter = (kind: ModelFamily, key: string): Hyperparameter =>
  key === TRAINING_SHARE ? SHARES : hyperparameterOf(kind, key);

/** Settings that one trial may have. */
const MOST_SETTINGS = 200;

/**
 * Makes sure that a trial can be run: its model is of the task, its features are columns and not the target.
 *
 * @throws SieveError `trial`, `plan-kind`, `plan-value`, `no-such-column`, with the field that does not fit
 */
export function checkTrial(
  plan: TrialPlan,
  roles: Pick<Roles, 'target' | 'task'>,
  columns: readonly ColumnInfo[],
): ModelFamily {
  const fail = (field: string, message: string) => new SieveError('trial', message, { field });
  const kind = checkModel(plan.model, roles.task, columns);
  if (plan.features.length === 0) throw fail('features', 'Choose at least one feature.');
  const names = new Set(columns.map(({ name }) => name));
  for (const name of plan.features) {
    if (!names.has(name)) throw fail('features', `There is no column “${name}”.`);
    if (name === roles.target) throw fail('features', `${name} is the target and cannot be a feature.`);
    if (name === plan.weight) throw fail('features', `${name} weighs the rows and cannot be a feature.`);
  }
  if (new Set(plan.features).size < plan.features.length)
    throw fail('features', 'A feature is chosen twice.');
  if (!trialMetrics(roles.task).some(({ key }) => key === plan.metric))
    throw fail('metric', `${plan.metric} does not judge a trial of this task.`);
  if (plan.vary.length > 2) throw fail('vary', 'At most two settings are varied.');
  if (plan.vary[0]?.key === plan.vary[1]?.key && plan.vary.length === 2)
    throw fail('vary', 'Two different settings make a grid.');
  for (const { key, settings } of plan.vary) {
    curveHyperparameter(kind, key);
    checkSettings(kind, key, settings, fail);
  }
  refuseMany(plan.vary);
  return kind;
}

/** @throws SieveError `trial` where a grid or curve has too many settings; one whose values are not settled counts as one */
export function refuseMany(vary: readonly Varied[]): void {
  const count = vary.reduce((product, { settings }) => product * Math.max(1, settings.length), 1);
  if (count > MOST_SETTINGS)
    throw new SieveError('trial', `${count} settings are more than ${MOST_SETTINGS}: name fewer values.`, {
      field: 'vary',
    });
}

const SHARE: Parameter = {
  type: 'number',
  label: 'share of the training rows',
  min: 1,
  max: 100,
  start: 100,
};

function checkSettings(
  kind: ModelFamily,
  key: string,
  settings: readonly number[],
  fail: (field: string, message: string) => SieveError,
): void {
  const parameter = key === TRAINING_SHARE ? SHARE : kind.parameters[key];
  if (parameter?.type !== 'number') throw fail('vary', `${key} is not a number.`);
  const { min = -Infinity, max = Infinity, step, label } = parameter;
  for (const setting of settings) {
    if (!(setting >= min && setting <= max))
      throw fail(
        'vary',
        `${setting} is no ${label}: it runs from ${min} to ${max === Infinity ? 'no end' : max}.`,
      );
    if (step === 1 && !Number.isInteger(setting))
      throw fail('vary', `${label}: ${setting} is no whole number.`);
  }
  if (new Set(settings).size < settings.length) throw fail('vary', `${label}: a setting is named twice.`);
}

/** Every setting of a trial whose values are settled: of a grid every pair, the second one running fastest. */
export function settingsOf(vary: readonly Varied[]): Readonly<Record<string, number>>[] {
  return vary.reduce<Readonly<Record<string, number>>[]>(
    (all, { key, settings }) => all.flatMap((one) => settings.map((value) => ({ ...one, [key]: value }))),
    [{}],
  );
}
