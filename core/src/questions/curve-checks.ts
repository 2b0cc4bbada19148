import { check, type Check } from '../check/check.js';
import { SieveError } from '../errors.js';
import { metricNamed } from '../metrics/registry.js';
import { at, counted, shortNumber } from '../numbers.js';
import type { RunCurve } from './kind.js';
import type { CurveRules } from './rules.js';

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

/** Training figures hardly get worse as models grow: more than a tenth of their range upwards is another curve. */
export function shapeCheck(training: readonly number[]): Check {
  const range = Math.max(...training) - Math.min(...training);
  const rises = training.filter((loss, i) => i > 0 && loss > at(training, i - 1) + 0.1 * range).length;
  const falls = at(training, training.length - 1) < at(training, 0);
  const holds = rises === 0 && (falls || range === 0);
  return check(
    'shape',
    holds ? 'holds' : 'fails',
    holds ? 'Training figures improve with complexity' : 'Training figures do not improve with complexity',
    {
      measured: `${counted(rises, 'step')} the other way`,
      expected: 'none: a more complex model fits the rows it learned from at least as well',
    },
  );
}

export function chosenCheck(
  chosen: number,
  { best, simplest }: Chosen,
  rule: 'best' | 'one-se',
  { setting, settings }: CurveRules,
): Check {
  const right = rule === 'best' ? best : simplest;
  const holds = chosen === right;
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

/** Whether a setting is simpler than the best, or more complex and better on training rows alone. */
export function endOf(
  place: number,
  training: readonly number[],
  validation: readonly number[],
  best: number,
): 'under' | 'over' | 'neither' {
  if (at(validation, place) <= at(validation, best)) return 'neither';
  if (place < best) return 'under';
  return at(training, place) <= at(training, best) ? 'over' : 'neither';
}

export function namedCheck(
  id: string,
  named: string,
  right: string,
  { setting, settings }: CurveRules,
  place: number,
): Check {
  const text = (value: string) => FITS.find((one) => one.value === value)?.text ?? value;
  const holds = named === right;
  const where = `${setting} ${at(settings, place)}`;
  return check(
    id,
    holds ? 'holds' : 'fails',
    holds ? `${where} is named rightly` : `${where} is not named as the figures say`,
    {
      measured: text(named),
      expected: 'as training and validation say of it, beside the best',
    },
  );
}

/** Whether validation figures are near those of a run of the same kind, where it tried the same settings. */
export function runCheck(
  validation: readonly number[],
  run: RunCurve,
  { setting, settings }: CurveRules,
  within: number,
): Check {
  let worst = { off: -1, text: '' };
  for (const point of run.points) {
    const place = settings.findIndex((one) => Number(one) === Number(point.setting));
    if (place < 0 || point.mean === null) continue;
    const off = Math.abs(at(validation, place) - point.mean);
    if (off > worst.off) worst = { off, text: `${setting} ${at(settings, place)}: ${shortNumber(off)} away` };
  }
  if (worst.off < 0) return check('run', 'unsure', 'The run tried none of these settings');
  const holds = worst.off <= within;
  return check(
    'run',
    holds ? 'holds' : 'fails',
    holds
      ? 'Validation figures are near what such a model gives'
      : 'Validation figures are far from what such a model gives',
    {
      measured: worst.text,
      expected: `within ${within}`,
    },
  );
}

/**
 * A run's curve in what the student measures: of a share where higher is better the error is the rest of 1.
 *
 * @throws SieveError `no-curve` where the run's metric cannot be told so
 */
export function inMeasure(run: RunCurve, measure: 'error' | 'score'): RunCurve {
  const metric = metricNamed(run.metric);
  if (metric.better === (measure === 'error' ? 'lower' : 'higher')) return run;
  const [low, high] = metric.range;
  if (low !== 0 || high !== 1)
    throw new SieveError(
      'no-curve',
      `The run is judged by ${metric.name}, which cannot be told as ${measure === 'error' ? 'an error' : 'a score'}.`,
      { field: 'run' },
    );
  return {
    ...run,
    points: run.points.map((point) => ({ ...point, mean: point.mean === null ? null : 1 - point.mean })),
  };
}
