import { check, type Check } from '../../../foundation/check.js';
import { shortNumber } from '../../../foundation/numbers.js';
import type { Plan } from '../../../data/sentence/sentence.js';
import { asksNames, type Asked, type AskedNames, type AskedNumber } from '../../generators/generator.js';
import { accepts } from '../../generators/tolerance.js';
import type { Typed } from '../../generators/typed.js';

/** What doubles lose on the way to the end of a range. */
const EDGE = 1e-9;

/** What a student says to one thing that is asked: a number, or the names that are chosen. */
export type Said = { readonly typed: Typed } | { readonly chosen: readonly string[] };

export interface JudgedValues {
  readonly checks: readonly Check[];
  /** Of names that are right in part the share of the marks. */
  readonly partly: ReadonlyMap<string, number>;
  /** The numbers that were typed. */
  readonly typed: readonly number[];
}

/** Holds each thing that was said against its key. */
export function judgeValues(
  asked: readonly Asked[],
  said: ReadonlyMap<string, Said>,
  tolerance: Plan,
): JudgedValues {
  const checks: Check[] = [];
  const partly = new Map<string, number>();
  const typed: number[] = [];
  for (const one of asked) {
    const own = said.get(one.key);
    if (own && 'chosen' in own && asksNames(one)) {
      checks.push(judgeNames(one, own.chosen));
      partly.set(one.key, shareRight(one, own.chosen));
    }
    if (own && 'typed' in own && !asksNames(one) && one.figure.value !== null) {
      checks.push(judgeNumber(one, one.figure.value, own.typed, tolerance));
      typed.push(own.typed.value);
    }
  }
  return { checks, partly, typed };
}

function judgeNumber({ key, name, between }: AskedNumber, value: number, own: Typed, tolerance: Plan): Check {
  const { right, why } = between
    ? { right: own.value >= between[0] - EDGE && own.value <= between[1] + EDGE, why: null }
    : accepts(tolerance, value, own);
  const expected = between ? rangeWords(between) : shortNumber(value, 6);
  return check(
    key,
    right ? 'holds' : 'fails',
    right ? `${name} is right` : `${name} is not right${why === null ? '' : `: ${why}`}`,
    { measured: shortNumber(own.value, 10), expected },
  );
}

/** What is accepted; a range may have no end. */
export function rangeWords([low, high]: readonly [number, number]): string {
  if (high === Number.MAX_VALUE) return `${shortNumber(low, 4)} or more`;
  return low === 0 ? `up to ${shortNumber(high, 4)}` : `${shortNumber(low, 4)} to ${shortNumber(high, 4)}`;
}

export const namesText = (names: readonly string[]): string =>
  names.length === 0 ? 'none of them' : names.join(', ');

function judgeNames({ key, name, right, choices }: AskedNames, chosen: readonly string[]): Check {
  const isRight = choices.every((choice) => right.includes(choice) === chosen.includes(choice));
  return check(key, isRight ? 'holds' : 'fails', isRight ? `${name} is right` : `${name} is not right`, {
    measured: namesText(choices.filter((choice) => chosen.includes(choice))),
    expected: namesText(right),
  });
}

/** Right names that were chosen less wrong ones, of all right ones: who chooses everything earns little. */
function shareRight({ right, several }: AskedNames, chosen: readonly string[]): number {
  if (!several || right.length === 0) return 0;
  const hits = chosen.filter((choice) => right.includes(choice)).length;
  return Math.max(0, 2 * hits - chosen.length) / right.length;
}
