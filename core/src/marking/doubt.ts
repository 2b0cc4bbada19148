import { judgeAgainst, type AnswerKey } from '../check/judge.js';
import type { Predictions } from '../check/reader.js';
import type { Metric } from '../metrics/metric.js';
import { at } from '../numbers.js';
import type { MarkScheme } from './scheme.js';
import { standardErrors } from './standard-errors.js';

/** What doubles lose on the way to a difference. */
const EDGE = 1e-12;

/** What a score on some rows is of. */
interface Scored {
  readonly key: AnswerKey;
  readonly predictions: Predictions;
  readonly rows: Int32Array;
}

/**
 * The score that marks follow from with the benefit of the doubt: a point of the scheme that is missed by no more than a
 * standard error. That is the error of the difference from the reference run that stands at the point, on the same rows,
 * or the score's own where none does. Up to the point for nothing no doubt helps.
 */
export function withDoubt(
  scheme: MarkScheme,
  metric: Metric,
  score: number,
  { key, predictions, rows }: Scored,
): number {
  const way = metric.better === 'higher' ? 1 : -1;
  if (scheme.doubt !== true || way * (score - scheme.nothing) <= 0) return score;
  const groups = key.groups ? rows.map((row) => at(key.groups ?? rows, row)) : null;
  const judged = judgeAgainst(key, predictions, rows);
  for (const point of [scheme.all, scheme.most]) {
    const missed = way * (point - score);
    if (missed <= 0) continue;
    const run = key.references?.find((one) => Number(one.score.toPrecision(3)) === point) ?? null;
    const { own, paired } = standardErrors(
      metric,
      judged,
      run && judgeAgainst(key, run.predictions, rows),
      groups,
    );
    if (missed <= (paired ?? own) + EDGE) return point;
  }
  return score;
}
