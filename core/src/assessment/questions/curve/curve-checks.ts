import { check, type Check } from '../../../foundation/check.js';
import { at, shortNumber } from '../../../foundation/numbers.js';
import type { CurveRules } from './question.js';

/** What a setting may be called. */
export const FITS = [
  { value: 'under', text: 'underfitted' },
  { value: 'over', text: 'overfitted' },
  { value: 'neither', text: 'neither' },
] as const;

interface Chosen {
  /** Place of the lowest loss, the simplest of equal ones. */
  readonly best: number;
  /** The simplest within one standard error of it. */
  readonly simplest: number;
}

/** Breiman and others, 1984, 3.4.3, of losses from simple to complex. */
export function choiceOf(validation: readonly number[], errors: readonly number[] | null): Chosen {
  const best = validation.indexOf(Math.min(...validation));
  const limit = at(validation, best) + (errors ? at(errors, best) : 0);
  return { best, simplest: validation.findIndex((loss) => loss <= limit + 1e-12) };
}

/** The step to which numbers were written, as the finest of them shows it; at most a hundredth of their range. */
export function stepOf(values: readonly number[]): number {
  const decimals = values.map((value) => (/\.(\d+)$/.exec(String(value))?.[1] ?? '').length);
  const range = Math.max(...values) - Math.min(...values);
  return Math.min(range / 100, 10 ** -Math.max(...decimals));
}

/**
 * Training figures hardly get worse as models grow: where they change by more than noise, all steps towards worse together
 * are at most half of those towards better. A setting need not be monotone (a penalty is not, in accuracy).
 *
 * @param training losses, from simple to complex
 * @param noise standard error of such figures; 0 where it is not known
 */
export function shapeCheck(training: readonly number[], noise: number): Check {
  const steps = training.slice(1).map((loss, i) => loss - at(training, i));
  const worse = steps.reduce((sum, step) => sum + Math.max(0, step), 0);
  const better = steps.reduce((sum, step) => sum + Math.max(0, -step), 0);
  const range = Math.max(...training) - Math.min(...training);
  const holds = range <= noise || worse <= better / 2;
  return check(
    'shape',
    holds ? 'holds' : 'fails',
    holds ? 'Training figures improve with complexity' : 'Training figures do not improve with complexity',
    {
      measured: `better by ${shortNumber(better)}, worse by ${shortNumber(worse)}`,
      expected: 'a more complex model fits the rows that it is trained on at least as well',
    },
  );
}

/**
 * The choice by the rule, of the student's own figures. Equal figures are equal choices, and so are those that rounding
 * may have made unequal.
 *
 * @param step to which figures were written
 */
export function chosenCheck(
  chosen: number,
  validation: readonly number[],
  errors: readonly number[] | null,
  rule: 'best' | 'one-se',
  { setting, settings }: CurveRules,
  step: number,
): Check {
  const least = Math.min(...validation);
  const own = at(validation, chosen);
  let holds = own <= least + step;
  if (rule === 'one-se') {
    // Of several best settings each may give the standard error.
    const limits = validation.flatMap((loss, i) =>
      loss <= least + step && errors ? [loss + at(errors, i)] : [],
    );
    holds = limits.some(
      (limit) =>
        own <= limit + step && validation.slice(0, chosen).every((simpler) => simpler > limit - step),
    );
  }
  return check(
    'choice',
    holds ? 'holds' : 'fails',
    holds ? `The ${setting} is chosen by the rule` : `The rule chooses another ${setting}`,
    {
      measured: at(settings, chosen),
      expected:
        rule === 'best' ? 'the best validation figure' : 'the simplest within one standard error of the best',
    },
  );
}

type Fit = 'under' | 'over' | 'neither';

/**
 * What may be said of a setting. Beyond one standard error of the best: simpler is underfitted; more complex is overfitted
 * where it is better on training rows. Within it, it may be called that or neither; the best itself is neither.
 *
 * @param noise standard error of validation figures; 0 where it is not known
 */
export function endOf(
  place: number,
  training: readonly number[],
  validation: readonly number[],
  best: number,
  noise: number,
): Fit[] {
  const off = at(validation, place) - at(validation, best);
  if (place === best) return ['neither'];
  const name: Fit = place < best ? 'under' : at(training, place) <= at(training, best) ? 'over' : 'neither';
  if (off <= 0) return noise > 0 ? ['neither', name] : ['neither'];
  return off <= noise * (1 + 1e-9) ? ['neither', name] : [name];
}

export function namedCheck(
  id: string,
  named: string,
  right: readonly string[],
  { setting, settings }: CurveRules,
  place: number,
): Check {
  const text = (value: string) => FITS.find((one) => one.value === value)?.text ?? value;
  const holds = right.includes(named);
  const where = `${setting} ${at(settings, place)}`;
  return check(
    id,
    holds ? 'holds' : 'fails',
    holds ? `${where} is named correctly` : `${where} is not named as the figures show`,
    {
      measured: text(named),
      expected: 'as training and validation show it, compared with the best',
    },
  );
}
