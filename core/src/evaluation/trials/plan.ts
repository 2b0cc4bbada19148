import { SieveError } from '../../foundation/errors.js';
import { hyperparameterOf, checkModel } from '../../models/registry.js';
import type { Hyperparameter, ModelFamily } from '../../models/contract/family.js';
import { checkScreening, type Screening } from '../../models/screening/keep.js';
import type { ColumnInfo, Parameter } from '../../data/sentence/parameter.js';
import type { Plan } from '../../data/sentence/sentence.js';
import type { Roles } from '../../data/table/roles.js';
import { choosingMetrics } from './metrics.js';

/** One setting of a model and the values that are tried; no values means those that the family or the data suggest. */
export interface Varied {
  readonly key: string;
  readonly settings: readonly number[];
}

/** A search through settings: of each varied one the least and the largest value say between which it is drawn. */
export interface SearchPlan {
  /** Each setting over all folds and rows; or many settings on few rows, of which the best go on to more. */
  readonly method: 'random' | 'halving';
  /** Settings that are drawn. */
  readonly count: number;
  /** Time after which no further setting is begun. */
  readonly minutes: number;
}

/** What is tried: a model on features, at one setting, along a curve, over a grid, or by a search. */
export interface TrialPlan {
  readonly model: Plan;
  readonly features: readonly string[];
  /** Which of them are kept, learned in every fold by its training rows; all where there is none. */
  readonly screening?: Screening | null;
  readonly vary: readonly Varied[];
  /** None where every varied value is tried. */
  readonly search?: SearchPlan | null;
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
export const MOST_SETTINGS = 500;
/** Settings that are varied together: two make a grid, a search draws values of more. */
const MOST_VARIED = 2;
export const MOST_SEARCHED = 6;
export const MOST_MINUTES = 25;

/**
 * Makes sure that a trial can be run: its model is of the task, its features are columns and not the target.
 *
 * @throws SieveError `trial`, `screening`, `plan-kind`, `plan-value`, `no-such-column`, with the field that does not fit
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
  if (plan.screening) checkScreening(plan.screening, plan.features.length);
  if (!choosingMetrics(roles.task).some(({ key }) => key === plan.metric))
    throw fail('metric', `${plan.metric} does not judge a trial of this task.`);
  if (plan.search) checkSearch(plan.vary, plan.search, fail);
  else if (plan.vary.length > MOST_VARIED) throw fail('vary', 'At most two settings are varied.');
  if (new Set(plan.vary.map(({ key }) => key)).size < plan.vary.length)
    throw fail('vary', 'Each setting is varied once.');
  for (const { key, settings } of plan.vary) {
    curveHyperparameter(kind, key);
    checkSettings(kind, key, settings, fail);
  }
  if (!plan.search) refuseMany(plan.vary);
  return kind;
}

function checkSearch(
  vary: readonly Varied[],
  { count, minutes }: SearchPlan,
  fail: (field: string, message: string) => SieveError,
): void {
  if (vary.length === 0) throw fail('vary', 'Name a setting that the search is to vary.');
  if (vary.length > MOST_SEARCHED) throw fail('vary', `A search varies at most ${MOST_SEARCHED} settings.`);
  if (vary.some(({ key }) => key === TRAINING_SHARE))
    throw fail('vary', 'The number of training rows is no setting that a search can choose.');
  if (!Number.isInteger(count) || count < 2 || count > MOST_SETTINGS)
    throw fail('search', `A search draws from 2 to ${MOST_SETTINGS} settings.`);
  if (!(minutes > 0 && minutes <= MOST_MINUTES))
    throw fail('search', `A search takes more than 0 and at most ${MOST_MINUTES} minutes.`);
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
