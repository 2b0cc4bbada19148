import { Injectable, type PipeTransform } from '@nestjs/common';
import { Problem } from './problem.js';

/** Nesting that no body of ours needs. */
const DEEPEST = 30;
const MOST_VALUES = 200_000;

/**
 * Refuses what no route can mean and what databases and recursive code stumble over, before anything else reads it: the
 * character NUL, half a surrogate pair, numbers that are none, and nesting without end.
 */
@Injectable()
export class CleanInputPipe implements PipeTransform {
  transform(value: unknown): unknown {
    checkInput(value);
    return value;
  }
}

/** @throws Problem 400 `invalid` */
export function checkInput(value: unknown): void {
  const waiting: { value: unknown; depth: number }[] = [{ value, depth: 0 }];
  for (let seen = 0; ; seen++) {
    const next = waiting.pop();
    if (!next) return;
    if (seen > MOST_VALUES) throw invalid('The request holds too many values.');
    if (typeof next.value === 'string') checkText(next.value);
    else if (typeof next.value === 'number' && !Number.isFinite(next.value))
      throw invalid('A number of the request is too large.');
    else if (typeof next.value === 'object' && next.value !== null && isPlain(next.value)) {
      if (next.depth === DEEPEST) throw invalid('The request is nested too deeply.');
      for (const [key, one] of Object.entries(next.value)) {
        checkText(key);
        waiting.push({ value: one, depth: next.depth + 1 });
      }
    }
  }
}

/** Objects and lists as JSON and forms have them; what the framework hands over besides is none of ours to read. */
const isPlain = (value: object): boolean => {
  const prototype: unknown = Object.getPrototypeOf(value);
  return Array.isArray(value) || prototype === Object.prototype || prototype === null;
};

/** With the flag u a pair of surrogates is one character, so that only halves are met. */
const LONE_SURROGATE = /\p{Surrogate}/u;

function checkText(text: string): void {
  if (text.includes('\0')) throw invalid('The request holds the character NUL, which no text has.');
  if (LONE_SURROGATE.test(text)) throw invalid('The request holds half a character (a lone surrogate).');
}

const invalid = (message: string) => new Problem(400, 'invalid', message);
