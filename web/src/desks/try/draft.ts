import { counted, shortNumber } from '@modest-sieve/core/foundation';
import { newPlan, type Plan, type Roles, type Task } from '@modest-sieve/core/data';
import { FOLD_SPLITTERS } from '@modest-sieve/core/splitting';
import {
  BASELINES,
  modelFamilyOf,
  modelFamiliesFor,
  SCREENS,
  type ModelFamily,
  type Screening,
} from '@modest-sieve/core/models';
import {
  curveHyperparameter,
  TRAINING_SHARE,
  choosingMetrics,
  type SearchPlan,
  type TrialPlan,
} from '@modest-sieve/core/evaluation';
import type { Schemas } from '../../api/client.js';
import { rangeIn, settingsIn } from './typed-values.js';

/** A trial as its sentence holds it: what may be typed need not be a plan yet. */
export interface TrialDraft {
  readonly model: Plan;
  /** Columns that are no features, of those that could be. */
  readonly without: readonly string[];
  /** Which of the features are kept, learned in every fold; null for all. */
  readonly screening: Screening | null;
  /** At most two settings, and the values as they are typed. */
  readonly vary: readonly { readonly key: string; readonly text: string }[];
  /** Null where every value is tried. */
  readonly search: SearchPlan | null;
  readonly metric: string;
  readonly choose: TrialPlan['choose'];
  readonly weight: string;
  readonly seed: number;
}

/** The columns that could be features. */
export const possibleFeatures = (dataSet: Schemas['DataSetDetail'], roles: Roles): string[] => {
  const not = new Set([roles.target, roles.identifier, roles.weight, ...roles.withheld]);
  return dataSet.profile.map(({ name }) => name).filter((name) => !not.has(name));
};

/** A trial as it is begun: the simplest baseline, of all features but the groups. */
export function firstDraft(roles: Roles): TrialDraft {
  const [kind] = modelFamiliesFor(roles.task);
  return {
    model: newPlan(kind ?? modelFamilyOf({ kind: 'tree' }), []),
    without: roles.group === null ? [] : [roles.group],
    screening: null,
    vary: [],
    search: null,
    metric: choosingMetrics(roles.task)[0]?.key ?? '',
    choose: 'simplest',
    weight: roles.weight ?? '',
    seed: 2718,
  };
}

/** The draft of a curve over the first setting of a family, at the values that the family suggests. */
export function tunedDraft(draft: TrialDraft, key: string): TrialDraft {
  const kind = modelFamilyOf({ kind: key });
  const [first] = kind.hyperparameters;
  return {
    ...draft,
    model: newPlan(kind, []),
    vary: first ? [{ key: first.key, text: '' }] : [],
    search: null,
  };
}

const isText = (value: unknown): value is string => typeof value === 'string';

const isVaried = (value: unknown): boolean =>
  typeof value === 'object' &&
  value !== null &&
  'key' in value &&
  'text' in value &&
  isText(value.key) &&
  isText(value.text);

const METHODS: readonly unknown[] = ['random', 'halving'] satisfies SearchPlan['method'][];

const isSearch = (value: Partial<SearchPlan> | null | undefined): value is SearchPlan =>
  METHODS.includes(value?.method) && typeof value?.count === 'number' && typeof value.minutes === 'number';

const isScreening = (value: Partial<Screening> | null | undefined): value is Screening =>
  (SCREENS as readonly unknown[]).includes(value?.by) && typeof value?.keep === 'number';

/** The draft that an address holds; null for anything that is none. */
export function draftIn(text: string | null, task: Task): TrialDraft | null {
  if (text === null) return null;
  try {
    const { model, without, screening, vary, search, metric, choose, weight, seed } = JSON.parse(
      text,
    ) as Partial<TrialDraft>;
    const kind = modelFamiliesFor(task).find(({ key }) => key === model?.kind);
    const isWhole =
      kind !== undefined &&
      Array.isArray(without) &&
      without.every(isText) &&
      Array.isArray(vary) &&
      vary.every(isVaried) &&
      choosingMetrics(task).some(({ key }) => key === metric) &&
      isText(weight) &&
      typeof seed === 'number';
    if (!isWhole || !isText(metric)) return null;
    // Settings that an address leaves out are those that a family begins with.
    const values = { ...newPlan(kind, []).values, ...model?.values };
    return {
      model: { kind: kind.key, values },
      without,
      screening: isScreening(screening) ? screening : null,
      vary,
      search: isSearch(search) ? search : null,
      metric,
      choose: choose === 'best' ? 'best' : 'simplest',
      weight,
      seed,
    };
  } catch {
    return null;
  }
}

/** The least and the largest value of each setting that is a number. */
export const settingLimits = (kind: ModelFamily): Record<string, { min?: number; max?: number }> =>
  Object.fromEntries(
    Object.entries(kind.parameters).flatMap(([key, parameter]) =>
      parameter.type === 'number' ? [[key, { ...parameter }]] : [],
    ),
  );

/** What a setting is called, whether of a family or the share of the training rows. */
export function settingLabel(kind: ModelFamily, key: string): string {
  return key === TRAINING_SHARE ? 'percent of the training rows' : (kind.parameters[key]?.label ?? key);
}

export const settingLabels = (kind: ModelFamily): Record<string, string> =>
  Object.fromEntries(
    [...kind.hyperparameters.map(({ key }) => key), TRAINING_SHARE].map((key) => [
      key,
      settingLabel(kind, key),
    ]),
  );

/** The settings along which a curve of a family may run. */
export const curvesOf = (kind: ModelFamily): { key: string; label: string }[] =>
  [...kind.hyperparameters.map(({ key }) => key), TRAINING_SHARE].map((key) => ({
    key,
    label: settingLabel(kind, curveHyperparameter(kind, key).key),
  }));

/** The plan that a draft asks for, or what is wrong with it. */
export function planOf(draft: TrialDraft, features: readonly string[]): TrialPlan | string {
  const vary: { key: string; settings: number[] }[] = [];
  for (const { key, text } of draft.vary) {
    const settings = draft.search ? rangeIn(text) : settingsIn(text);
    if (typeof settings === 'string') return `${key}: ${settings}.`;
    vary.push({ key, settings });
  }
  const chosen = features.filter((name) => !draft.without.includes(name) && name !== draft.weight);
  const screening = BASELINES.includes(draft.model.kind) ? null : draft.screening;
  if (screening && screening.keep > chosen.length)
    return `Of ${counted(chosen.length, 'feature')} the screening cannot keep ${screening.keep}.`;
  return {
    model: draft.model,
    features: chosen,
    ...(screening ? { screening } : {}),
    vary,
    ...(draft.search && vary.length > 0 ? { search: draft.search } : {}),
    metric: draft.metric,
    choose: draft.choose,
    weight: draft.weight === '' ? null : draft.weight,
    seed: draft.seed,
  };
}

/** The draft of a run that was made, of the features that there could be. */
export function draftOf(
  { model, features, screening = null, vary, search = null, metric, choose, weight, seed }: TrialPlan,
  possible: readonly string[],
): TrialDraft {
  return {
    model,
    without: possible.filter((name) => !features.includes(name) && name !== weight),
    screening,
    vary: vary.map(({ key, settings }) => ({ key, text: settings.join(', ') })),
    search,
    metric,
    choose,
    weight: weight ?? '',
    seed,
  };
}

/** Folds in a few words: "5 folds", "5 folds, 3 times over". */
export function foldsText({ name, folds, repeats, plan }: Schemas['FoldSetInfo']): string {
  if (name !== '') return name;
  const group = plan.values['group'];
  if (plan.kind === 'leave-one-group-out') return `${folds} folds, one ${String(group)} at a time`;
  const title = FOLD_SPLITTERS.find(({ key }) => key === plan.kind)?.title ?? plan.kind;
  const count = `${folds} folds${repeats > 1 ? `, ${repeats} times` : ''}`;
  return typeof group === 'string' && group !== '' ? `${count}, each ${group} whole` : `${count}, ${title}`;
}

/** What a run is called beside its family: the setting that was chosen, or what differs from where a family begins. */
export function runDetail({ plan, result }: Pick<Schemas['TrialInfo'], 'plan' | 'result'>): string {
  const kind = modelFamilyOf(plan.model);
  const labels = settingLabels(kind);
  const all = Object.entries(result?.chosen.values ?? {});
  const chosen = plan.search ? all.filter(([key]) => key !== TRAINING_SHARE) : all;
  if (chosen.length === 1 && chosen[0]?.[0] === TRAINING_SHARE && result)
    return `by training size, ${result.settings} shares`;
  if (chosen.length > 0 && result)
    return `${chosen.map(([key, value]) => `${labels[key] ?? key} ${shortNumber(value)}`).join(', ')}, of ${result.settings}`;
  const begun = newPlan(kind, []).values;
  return Object.entries(plan.model.values)
    .filter(([key, value]) => JSON.stringify(begun[key]) !== JSON.stringify(value))
    .slice(0, 3)
    .map(([key, value]) => {
      const parameter = kind.parameters[key];
      if (Array.isArray(value)) return value.join(' + ');
      return parameter?.type === 'choice'
        ? (parameter.choices.find((choice) => choice.value === value)?.text ?? '')
        : `${parameter?.label ?? key} ${typeof value === 'number' ? shortNumber(value, 6) : String(value)}`;
    })
    .join(', ');
}
