import { expect, it } from '@jest/globals';
import { TASKS } from '../../data/table/roles.js';
import { metricsFor } from '../../metrics/registry.js';
import { choosingMetrics, measuredMetrics, trialMetrics, usualMetrics } from './metrics.js';

it.each(TASKS)('every metric of a task judges a run (%s), each once and the usual ones first', (task) => {
  const keys = trialMetrics(task).map(({ key }) => key);
  expect([...keys].sort()).toEqual(
    metricsFor(task)
      .map(({ key }) => key)
      .sort(),
  );
  const usual = usualMetrics(task, keys[0] ?? '').map(({ key }) => key);
  expect(keys.slice(0, usual.length)).toEqual(usual);
});

it('no setting is chosen by the direction of its errors', () => {
  expect(trialMetrics('regression').some(({ key }) => key === 'mean_error')).toBe(true);
  expect(choosingMetrics('regression').some(({ key }) => key === 'mean_error')).toBe(false);
});

it('of many settings the usual metrics are measured, and the one that chooses', () => {
  expect(measuredMetrics('binary', 60, 'recall')).toEqual(trialMetrics('binary'));
  expect(measuredMetrics('binary', 61, 'recall').map(({ key }) => key)).toEqual([
    ...['roc_auc', 'accuracy', 'balanced_accuracy', 'f1', 'log_loss', 'brier', 'recall'],
  ]);
});
