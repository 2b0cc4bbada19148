import type { Task } from '@modest-sieve/core/data';
import { BASELINES, modelFamiliesFor, modelFamilyOf, modelLine } from '@modest-sieve/core/models';
import type { Schemas } from '../../api/client.js';
import { bestFirst } from './run-order.js';

/** Families whose models are made of models of other families. */
const MADE_OF_OTHERS: readonly string[] = ['combination', 'bagging'];

/**
 * The models of runs at the settings that were chosen, the best first, then every other family as it begins: what can be
 * combined, each in one line.
 */
export function modelsTried(
  runs: readonly Schemas['TrialInfo'][],
  foldSetId: string,
  metric: string,
  task: Task,
): string[] {
  const done = runs.filter(
    ({ foldSetId: own, state, plan }) =>
      own === foldSetId &&
      state === 'done' &&
      !BASELINES.includes(plan.model.kind) &&
      !MADE_OF_OTHERS.includes(plan.model.kind),
  );
  const lines = bestFirst(done, metric).map(({ plan, result }) => {
    const kind = modelFamilyOf(plan.model);
    const chosen = Object.entries(result?.chosen.values ?? {}).filter(([key]) => key in kind.parameters);
    return modelLine(kind, {
      kind: kind.key,
      values: { ...plan.model.values, ...Object.fromEntries(chosen) },
    });
  });
  const begun = modelFamiliesFor(task)
    .map(({ key }) => key)
    .filter((key) => !MADE_OF_OTHERS.includes(key));
  return [...new Set([...lines, ...begun])];
}
