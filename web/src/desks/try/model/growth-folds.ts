import type { Growth } from '@modest-sieve/core/models';
import type { Schemas } from '../../../api/client.js';

type Trial = Pick<Schemas['TrialDetail'], 'vary' | 'settings' | 'plan'>;

/** The metric of a trial that is the error of a growing model, and what its figure comes to. */
const AS_METRIC: Readonly<
  Partial<Record<Growth['measure'], { key: string; error: (figure: number) => number }>>
> = {
  'error rate': { key: 'accuracy', error: (accuracy) => 1 - accuracy },
  'mean squared error': { key: 'mse', error: (mse) => mse },
  'log loss': { key: 'log_loss', error: (loss) => loss },
};

/**
 * The same error over the folds, where the run varied nothing but the number of trees, rounds or epochs: the models of the
 * folds have fewer training rows each.
 */
export function errorOverFolds(
  { of, measure }: Pick<Growth, 'of' | 'measure'>,
  { vary, settings, plan }: Trial,
): { readonly x: number; readonly y: number; readonly error?: number }[] {
  const metric = AS_METRIC[measure];
  if (!metric || plan.search || vary.length !== 1 || vary[0]?.key !== of) return [];
  return settings
    .flatMap(({ values, metrics }) => {
      const x = values[of];
      const { mean = null, se = null } = metrics[metric.key] ?? {};
      if (x === undefined || mean === null) return [];
      return [{ x, y: metric.error(mean), ...(se === null ? {} : { error: se }) }];
    })
    .sort((a, b) => a.x - b.x);
}
