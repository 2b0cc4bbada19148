import { dictionary } from '@zxcvbn-ts/language-common';
import { Problem } from '../platform/errors/problem.js';

export const SHORTEST_PASSWORD = 12;
export const LONGEST_PASSWORD = 200;

/** The 49,000 passwords that were met most often in leaks, as the package lists them. */
const COMMON: ReadonlySet<string> = new Set(dictionary['passwords-common']);
/** Different characters below which a password is no more than a pattern. */
const FEWEST_CHARACTERS = 5;

/**
 * Refuses passwords that an attacker tries first: common ones, also with digits or signs around them or written twice,
 * patterns of a few characters, and the person's own name or address.
 *
 * @throws Problem 422 `weak-password`
 */
export function checkPassword(
  password: string,
  person: { readonly email: string; readonly name: string },
): void {
  const text = password.toLowerCase();
  const core = text.replace(/^[^\p{L}]+|[^\p{L}]+$/gu, '');
  const half = text.slice(0, text.length / 2);
  const isCommon = [text, core].some((one) => COMMON.has(one)) || (half + half === text && COMMON.has(half));
  if (isCommon) throw weak('This password is among those that are tried first. Choose another one.');
  if (new Set(text).size < FEWEST_CHARACTERS || isSequence(text))
    throw weak('This password is a simple pattern. Choose another one.');
  const own = [person.email.split('@')[0] ?? '', person.email, ...person.name.toLowerCase().split(/\s+/)];
  if (own.some((word) => word.length > 3 && text.replace(word, '').length < 6))
    throw weak('This password is little more than your name or address. Choose another one.');
}

/** Whether each character follows the one before it, upwards or downwards: “123456789012” does. */
function isSequence(text: string): boolean {
  const codes = Array.from(text, (letter) => letter.charCodeAt(0));
  const steps = codes.slice(1).map((code, i) => code - (codes[i] ?? 0));
  return [1, -1].some(
    (step) => steps.filter((one) => one === step || Math.abs(one) === 9).length === steps.length,
  );
}

const weak = (message: string) => new Problem(422, 'weak-password', message, { field: 'password' });
