import type { DemoTrial, DemoTable } from './demo-table.js';
import { modelOf } from '@modest-sieve/core/models';
import type { TrialPlan } from '@modest-sieve/core/evaluation';
import type { Visitor } from './client.js';

const depths = (most: number) => ({ key: 'depth', settings: Array.from({ length: most }, (_, d) => d + 1) });
const path = { key: 'penalty', settings: [] };

/** From guessing to a tuned tree, and to many trees: the lessons on overfitting. */
export const OVERWINTERING_TRIALS: readonly DemoTrial[] = [
  { model: 'most-frequent', reference: true },
  { model: 'logistic' },
  { model: 'lasso', vary: [path] },
  { model: 'naive-bayes', values: { kind: 'kernel' } },
  { model: 'nearest', vary: [{ key: 'neighbours', settings: [1, 3, 8, 20, 60, 120] }] },
  { model: 'tree' },
  { model: 'tree', values: { rows_per_leaf: 8 }, vary: [depths(20)], reference: true },
  { model: 'forest', vary: [{ key: 'trees', settings: [1, 2, 5, 10, 20, 50, 100] }] },
  {
    model: 'boosting',
    values: { leaves: 8 },
    vary: [{ key: 'rounds', settings: [1, 5, 10, 20, 40, 80, 160, 320] }],
  },
  {
    model: 'boosting',
    vary: ['rounds', 'learning_rate', 'leaves', 'rows_per_leaf'].map((key) => ({ key, settings: [] })),
    search: { method: 'random', count: 40, minutes: 5 },
  },
  {
    model: 'combination',
    values: {
      by: 'stack',
      members: ['logistic', 'nearest neighbours=20', 'forest trees=40', 'boosting rounds=40 leaves=8'],
    },
  },
];

/** Spread that grows with the yield, and two weather columns that are nearly one. */
export const HONEY_TRIALS: readonly DemoTrial[] = [
  { model: 'mean', reference: true },
  { model: 'linear' },
  { model: 'lasso', vary: [path], reference: true },
  { model: 'tree', values: { rows_per_leaf: 10 }, vary: [depths(10)] },
  { model: 'bagging', vary: [{ key: 'models', settings: [1, 3, 10] }] },
];

/** A rare class, and two that overlap. */
export const POLLEN_TRIALS: readonly DemoTrial[] = [
  { model: 'most-frequent', reference: true },
  { model: 'naive-bayes' },
  { model: 'tree', values: { rows_per_leaf: 5 }, vary: [depths(12)], reference: true },
  { model: 'vector-machine' },
  { model: 'network', values: { layers: '12', epochs: 60, learning_rate: 0.01, patience: 10 } },
];

const METRICS = { binary: 'roc_auc', multiclass: 'balanced_accuracy', regression: 'rmse' } as const;

/** Folds that were kept, of a table's training rows. */
export interface Folded {
  /** Where the API has the data set. */
  readonly dataSet: string;
  readonly foldSetId: string;
  readonly table: Pick<DemoTable, 'roles' | 'trials'>;
}

/**
 * Starts the trials of a table that are references, or those that are none; they are computed while the program runs.
 *
 * @returns their ids
 */
export async function startTrials(
  ines: Visitor,
  { dataSet, foldSetId, table: { roles, trials } }: Folded,
  references: boolean,
): Promise<readonly string[]> {
  const { profile } = await ines.call<{ profile: { name: string }[] }>('GET', dataSet);
  const not = new Set([roles.target, roles.identifier, roles.group, roles.weight, ...roles.withheld]);
  const features = profile.map(({ name }) => name).filter((name) => !not.has(name));
  const started = [];
  for (const { model, values = {}, vary = [], search = null, reference = false } of trials) {
    if (reference !== references) continue;
    const plan: TrialPlan = {
      model: modelOf(model, values),
      features,
      vary,
      search,
      metric: METRICS[roles.task],
      choose: 'simplest',
      weight: null,
      seed: 2718,
    };
    const { id } = await ines.call<{ id: string }>('POST', `${dataSet}/trials`, { foldSetId, plan });
    started.push(id);
  }
  return started;
}
