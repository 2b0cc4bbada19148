import type { Metric } from '../../metrics/metric.js';
import type { Task } from '../../data/table/roles.js';
import { at } from '../../foundation/numbers.js';
import { modelFamiliesFor, modelFamilyOf, modelOf } from '../../models/registry.js';
import { MOST_SEARCHED, type TrialPlan } from './plan.js';
import { gainOver } from './verdict-tests.js';

/** What the trials of all families share; the minutes of a search are those of all together. */
export type SharedPlan = Pick<TrialPlan, 'features' | 'screening' | 'metric' | 'weight' | 'seed' | 'search'>;

/**
 * A trial of every family of a task at default settings; or a search of every family that has settings, through all of them
 * within the suggested ranges, each with its share of the minutes.
 */
export function everyFamily(task: Task, { search, ...shared }: SharedPlan): TrialPlan[] {
  const families = modelFamiliesFor(task);
  if (!search)
    return families.map(({ key }) => ({ ...shared, model: modelOf(key), vary: [], choose: 'simplest' }));
  const tuned = families.filter(({ hyperparameters }) => hyperparameters.length > 0);
  return tuned.map(({ key, hyperparameters }) => ({
    ...shared,
    model: modelOf(key),
    vary: hyperparameters.slice(0, MOST_SEARCHED).map((one) => ({ key: one.key, settings: [] })),
    search: { ...search, minutes: search.minutes / tuned.length },
    choose: 'best',
  }));
}

/** A family at default settings, over the folds that all of them share. */
export interface FamilyRun {
  readonly kind: string;
  readonly mean: number;
  /** Of every fold of every repeat. */
  readonly folds: readonly (number | null)[];
}

/** Families at default settings, and which of them to tune first. */
export interface FamiliesCompared {
  readonly best: string;
  /** With settings to tune, the best or within one standard error of it; the best first. */
  readonly tune: readonly string[];
  /** As near to the best, with nothing to tune. */
  readonly nothingToTune: readonly string[];
}

/**
 * Which families are near the best: those whose mean difference from it is no larger than its standard error,
 * corrected for folds that share training rows (the rule of one standard error, Breiman and others, 1984, 3.4.3; Nadeau and
 * Bengio, 2003). That tuning helps is not said: it is where to look first.
 *
 * @param folds in one repeat
 * @returns null for fewer than two families
 */
export function compareFamilies(
  runs: readonly FamilyRun[],
  metric: Metric,
  folds: number,
): FamiliesCompared | null {
  if (runs.length < 2) return null;
  const sign = metric.better === 'higher' ? 1 : -1;
  const ordered = [...runs].sort((a, b) => sign * (b.mean - a.mean));
  const best = at(ordered, 0);
  const near = ordered.filter((run) => {
    if (run.mean === best.mean) return true;
    const lead = gainOver(metric, best.folds, run.folds, folds);
    return lead !== null && lead.difference <= lead.se;
  });
  const isTuned = ({ kind }: FamilyRun) => modelFamilyOf({ kind }).hyperparameters.length > 0;
  const kinds = (of: readonly FamilyRun[]) => of.map(({ kind }) => kind);
  return {
    best: best.kind,
    tune: kinds(near.filter(isTuned)),
    nothingToTune: kinds(near.filter((run) => !isTuned(run))),
  };
}
