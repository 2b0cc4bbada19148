import { GENERATORS, QUESTION_KINDS, TOLERANCE_KINDS, type Question } from '@modest-sieve/core/assessment';
import { isObject } from './saved-fields.js';
import type { Data, Settings } from './settings.js';

/** Whether a value is of the kind of another; lists and objects by that alone. */
export const isLike = (value: unknown, like: unknown): boolean =>
  like === null ||
  (typeof value === typeof like && value !== null && Array.isArray(value) === Array.isArray(like));

/** What must be there for a question of a kind to be drawn; the server looks at the rest when it is saved. */
export function isQuestion(one: unknown, data: Data): one is Question {
  if (typeof one !== 'object' || one === null || !('kind' in one)) return false;
  const kind = QUESTION_KINDS.find(({ key }) => key === one.kind);
  if (!kind) return false;
  const given = new Map<string, unknown>(Object.entries(one));
  if (!Object.entries(kind.begin('q', data)).every(([key, like]) => isLike(given.get(key), like)))
    return false;
  const plans = [given.get('figures'), given.get('tolerance')].filter((plan) => plan !== undefined);
  return plans.every(isKnownPlan);
}

const isKnownPlan = (plan: unknown): boolean =>
  typeof plan === 'object' &&
  plan !== null &&
  'kind' in plan &&
  'values' in plan &&
  isLike(plan.values, {}) &&
  [...GENERATORS, ...TOLERANCE_KINDS].some(({ key }) => key === plan.kind);

/** Questions that were being written; null where one of them could not be drawn. */
export const questionsIn = (saved: unknown, data: Data): readonly Question[] | null =>
  Array.isArray(saved) && saved.every((one) => isQuestion(one, data)) ? saved : null;

/**
 * An exercise that was being composed.
 *
 * @param like one as this page begins it, which has whatever must be there
 */
export function draftIn(saved: unknown, like: Settings, data: Data): Settings | null {
  if (!isObject(saved) || !questionsIn(saved.questions, data)) return null;
  const isWhole = Object.entries(like).every(
    ([key, value]: [string, unknown]) => key in saved && (saved[key] === null || isLike(saved[key], value)),
  );
  return isWhole ? (saved as unknown as Settings) : null;
}
