import { check, type Check } from '../check/check.js';
import { judgeAgainst } from '../check/judge.js';
import type { Predictions } from '../check/reader.js';
import { summariseFolds } from '../comparison/over-folds.js';
import { accepts } from '../draws/tolerance.js';
import type { Typed } from '../draws/typed.js';
import { figureOf } from '../metrics/judged.js';
import { metricNamed } from '../metrics/registry.js';
import { indices, shortNumber } from '../numbers.js';
import type { RowsKey } from './rules.js';

/** Standard errors by which out-of-fold figures may beat the best reference run before they are hardly out-of-fold. */
const PLAUSIBLE = 4;
interface Reported {
  readonly k: number;
  readonly metric: string;
  readonly mean: Typed | null;
  readonly se: Typed | null;
}

/** Whether what was reported follows from the predictions, and whether these can have been made out of fold. */
export function figureChecks(
  assigned: Int32Array,
  predictions: Predictions,
  key: RowsKey,
  reported: Reported,
): Check[] {
  const { truth } = key;
  if (!truth) return [];
  const metric = metricNamed(reported.metric);
  const rows = indices(assigned.length);
  const scores = Array.from({ length: reported.k }, (_, fold) =>
    figureOf(
      metric,
      judgeAgainst(
        truth,
        predictions,
        rows.filter((row) => assigned[row] === fold),
      ),
    ),
  );
  const over = summariseFolds(scores);
  if (over.mean === null)
    return [check('figures', 'unsure', `${metric.name} could not be recomputed: ${over.reason}`)];
  const agrees = (id: string, name: string, value: number | null, typed: Typed | null): Check => {
    const plan = { kind: 'digits', values: { decimals: 2 } };
    const verdict = value !== null && typed !== null ? accepts(plan, value, typed) : null;
    if (verdict === null) return check(id, 'unsure', `The ${name} could not be recomputed`);
    return check(
      id,
      verdict.right ? 'holds' : 'fails',
      verdict.right ? `The ${name} is that of the predictions` : `The ${name} is not that of the predictions`,
      {
        measured: typed === null ? '' : String(typed.value),
        expected: verdict.why ?? `${shortNumber(value ?? 0, 6)}, to the digits typed`,
      },
    );
  };
  return [
    agrees('mean', 'mean over the folds', over.mean, reported.mean),
    agrees('se', 'standard error', over.se, reported.se),
    plausibleCheck(metric, over.mean, over.se ?? 0, key.references),
  ];
}

/**
 * Predictions of rows that were learned from are far better than those of rows held back. What no reference run comes
 * near to was hardly predicted out of fold; without a run only what is perfect says so.
 */
function plausibleCheck(
  metric: ReturnType<typeof metricNamed>,
  mean: number,
  se: number,
  references: RowsKey['references'],
): Check {
  const way = metric.better === 'higher' ? 1 : -1;
  const perfect = way > 0 ? metric.range[1] : 0;
  const measured = `${metric.name} ${shortNumber(mean, 4)}`;
  if (references.length === 0) {
    const isPerfect = mean === perfect;
    return check(
      'out-of-fold',
      isPerfect ? 'fails' : 'holds',
      isPerfect
        ? 'No row is predicted wrongly: these are hardly predictions out of fold'
        : 'Predictions are not perfect, as those of rows held back are not',
      { measured },
    );
  }
  const best = references.reduce((so, one) => (way * one.mean > way * so.mean ? one : so));
  const spread = Math.max(se, best.se);
  const holds = way * (mean - best.mean) <= PLAUSIBLE * spread;
  return check(
    'out-of-fold',
    holds ? 'holds' : 'fails',
    holds
      ? 'Predictions are as good as rows held back allow'
      : 'Predictions are far better than any reference run: these are hardly predictions out of fold',
    {
      measured,
      expected: `no more than ${PLAUSIBLE} standard errors better than ${shortNumber(best.mean, 4)}`,
    },
  );
}
