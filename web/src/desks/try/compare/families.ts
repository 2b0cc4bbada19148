import { modelOf } from '@modest-sieve/core/models';
import type { Schemas } from '../../../api/client.js';

type Run = Schemas['TrialInfo'];

/** Fewer families than this are no look at all of them. */
const FEWEST = 5;

/** Runs of many families at default settings, over the same folds, features, screening, weights and seed: those of the latest such look; else none. */
export function familiesAtDefaults(runs: readonly Run[]): readonly Run[] {
  const looks = new Map<string, Map<string, Run>>();
  for (const run of runs) {
    const { model, vary, features, screening = null, weight, seed } = run.plan;
    if (vary.length > 0 || !isAtDefaults(model)) continue;
    const key = JSON.stringify([run.foldSetId, [...features].sort(), screening, weight, seed]);
    const look = looks.get(key) ?? new Map<string, Run>();
    // The latest comes first.
    if (!look.has(model.kind)) look.set(model.kind, run);
    looks.set(key, look);
  }
  const [latest] = [...looks.values()].filter(({ size }) => size >= FEWEST);
  return latest ? [...latest.values()] : [];
}

function isAtDefaults({ kind, values }: Run['plan']['model']): boolean {
  const begun = modelOf(kind).values;
  return [...Object.keys(begun), ...Object.keys(values)].every(
    (key) => JSON.stringify(begun[key]) === JSON.stringify(values[key]),
  );
}
