import { SieveError } from '@modest-sieve/core/foundation';
import type { Metric } from '@modest-sieve/core/metrics';
import { readFitted } from '@modest-sieve/core/models';
import {
  dependenceOf,
  permutationImportance,
  screenColumns,
  screeningLeak,
  selectFeatures,
  choosingMetrics,
  type Dependence,
  type PermutationImportance,
} from '@modest-sieve/core/evaluation';
import type { ColumnScreening, FeatureSelection, ScreeningRequest, SelectionRequest } from '../api/api.js';
import { tasks } from '../platform/compute/task.js';
import { chosenSetting, opened, type TrialMaterial } from './trial-material.js';

/** What the features of a run do in its model. */
export const TRIAL_COLUMN_TASKS = tasks('trials', {
  columnImportance({
    fitted,
    metric: key,
    ...material
  }: TrialMaterial & { fitted: string; metric: string }): PermutationImportance[] {
    const metric = metricOf(material, key);
    const { request, folds } = chosenSetting(material, fitted);
    return permutationImportance(request, folds, metric, material.roles.group !== null);
  },

  columnDependence({
    fitted,
    columns,
    label,
    ...material
  }: TrialMaterial & { fitted: string; columns: readonly string[]; label: string | null }): Dependence {
    const { table, request } = opened(material);
    return dependenceOf(readFitted(fitted), table, request.rows, columns, label, request.seed);
  },

  /** The columns on the rows of the folds, and what screening outside the folds pretends. */
  columnScreening({
    fitted,
    screening: { by, keep, metric: key },
    ...material
  }: TrialMaterial & { fitted: string; screening: ScreeningRequest }): ColumnScreening {
    const { request, folds } = unscreened(material, fitted);
    return {
      columns: screenColumns({ ...request, by }, request.seed),
      leak: screeningLeak(request, folds, { by, keep }, metricOf(material, key)),
    };
  },

  /** Features step by step, and what choosing them outside the folds pretends. */
  featureSelection({
    fitted,
    selection: { way, most, metric },
    ...material
  }: TrialMaterial & { fitted: string; selection: SelectionRequest }): FeatureSelection {
    const { request, folds } = unscreened(material, fitted);
    return selectFeatures(request, folds, { way, most }, metricOf(material, metric));
  },
});

/** A run's chosen setting with all of its features: those that its own screening leaves out are looked at as well. */
function unscreened(material: TrialMaterial, fitted: string) {
  const { request, folds } = chosenSetting(material, fitted);
  return { request: { ...request, screening: null }, folds };
}

/** @throws SieveError `trial` */
function metricOf({ roles }: TrialMaterial, key: string): Metric {
  const metric = choosingMetrics(roles.task).find((one) => one.key === key);
  if (metric) return metric;
  throw new SieveError('trial', `${key} does not judge a trial of this task.`, { field: 'metric' });
}
