import { SieveError } from '@modest-sieve/core/foundation';
import { readFitted } from '@modest-sieve/core/models';
import {
  dependenceOf,
  permutationImportance,
  trialMetrics,
  type Dependence,
  type PermutationImportance,
} from '@modest-sieve/core/evaluation';
import { tasks } from '../platform/compute/task.js';
import { chosenSetting, opened, type TrialMaterial } from './trial-material.js';

/** What the features of a run do in its model. */
export const TRIAL_COLUMN_TASKS = tasks('trials', {
  columnImportance({
    fitted,
    metric: key,
    ...material
  }: TrialMaterial & { fitted: string; metric: string }): PermutationImportance[] {
    const metric = trialMetrics(material.roles.task).find((one) => one.key === key);
    if (!metric)
      throw new SieveError('trial', `${key} does not judge a trial of this task.`, { field: 'metric' });
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
});
