import { check, type Check } from '../../../foundation/check.js';
import { SieveError } from '../../../foundation/errors.js';
import { metricNamed } from '../../../metrics/registry.js';
import { at, shortNumber } from '../../../foundation/numbers.js';
import { WORK } from '../contract/credit.js';
import type { RunCurve } from '../../material/run-curve.js';
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

/** Standard errors of the run beyond which a figure is not what such a model gives: those of both curves count. */
const WITHIN = 3 * Math.SQRT2;
/** Beyond so many more, at more than half of the settings, the curve is an invented one. */
const WIDE = 2;
/** Training figures vary by so much of the standard error of validation figures: chosen on simulated curves of trees (`prove -- verdicts`). */
const TRAINING_NOISE = 0.8;
/** Training figures of other programs may differ by so much of the simplest model's: common practice. */
const TRAINING_WITHIN = 0.1;

interface Compared {
  readonly of: 'training' | 'validation';
  readonly text: string;
  /** Distance over what is allowed. */
  readonly off: number;
}

/** Each setting that the run has too, with how far the student's figures are from it: no text says how far, which would give the run away. */
function comparedWith(
  training: readonly number[],
  validation: readonly number[],
  run: RunCurve,
  { setting, settings }: CurveRules,
): Compared[] {
  const spread =
    Math.max(...run.points.map(({ mean }) => mean ?? -Infinity)) -
    Math.min(...run.points.map(({ mean }) => mean ?? Infinity));
  // The spread over a few folds is a rough measure of one setting's error: all settings together give a better one.
  const known = run.points.flatMap(({ se }) => (se == null ? [] : [se]));
  const pooled = known.length === 0 ? 0 : Math.hypot(...known) / Math.sqrt(known.length);
  const first = Math.abs(run.points.find((point) => point.training != null)?.training ?? 0);
  return run.points.flatMap((point): Compared[] => {
    const place = settings.findIndex((one) => Number(one) === Number(point.setting));
    if (place < 0 || point.mean === null) return [];
    // A run without a standard error allows a tenth of its range.
    const allowed = Math.max(WITHIN * Math.max(point.se ?? 0, pooled), spread / 10, 1e-9);
    const off = Math.abs(at(validation, place) - point.mean);
    const name = `${setting} ${at(settings, place)}`;
    const compared: Compared[] = [{ of: 'validation', off: off / allowed, text: `validation at ${name}` }];
    if (point.training == null) return compared;
    const trainingOff = Math.abs(at(training, place) - point.training);
    const trainingAllowed = Math.max(WITHIN * TRAINING_NOISE * pooled, TRAINING_WITHIN * first, 1e-9);
    return [
      ...compared,
      {
        of: 'training',
        off: trainingOff / trainingAllowed,
        text: `${name}: training ${shortNumber(trainingOff)} away`,
      },
    ];
  });
}

/**
 * Whether figures are near those of a run of the same kind, where it tried the same settings: within three standard errors
 * of the difference. Other folds of the same rows differ by less.
 */
export function runCheck(
  training: readonly number[],
  validation: readonly number[],
  run: RunCurve,
  rules: CurveRules,
): Check {
  const compared = comparedWith(training, validation, run, rules);
  if (compared.length === 0) return check('run', 'unsure', 'The run tried none of these settings');
  const worst = compared.reduce((so, one) => (one.off > so.off ? one : so));
  const holds = worst.off <= 1;
  return check(
    'run',
    holds ? 'holds' : 'fails',
    holds ? 'Figures are near what such a model gives' : 'Figures are far from what such a model gives',
    { measured: `furthest: ${worst.text}`, expected: 'within three standard errors of the difference' },
  );
}

/** The conditions that a curve does not keep, without which it earns nothing: its figures vary, and are possible ones. */
export function curveFaults(
  training: readonly number[],
  validation: readonly number[],
  run: RunCurve | null,
  rules: CurveRules,
): Check[] {
  const fault = (message: string, more = {}) => [check(WORK, 'fails', message, more)];
  const isConstant = (values: readonly number[]) => values.every((value) => value === values[0]);
  if (isConstant(training) || isConstant(validation))
    return fault(
      `Every ${rules.setting} has the same ${isConstant(training) ? 'training' : 'validation'} figure: nothing was fitted.`,
    );
  if (training.every((value, i) => value === validation[i]))
    return fault('Training and validation figures are the same: one of them was not measured.');
  const compared = run ? comparedWith(training, validation, run, rules) : [];
  for (const column of ['validation', 'training']) {
    const own = compared.filter((one) => one.of === column);
    const [first, ...others] = own.filter(({ off }) => off > WIDE);
    if (first && others.length + 1 > own.length / 2)
      return fault('The figures are not those of such a model on these rows.', { measured: first.text });
  }
  return [];
}

/**
 * A run's curve in what the student measures: of a share where higher is better the error is the rest of 1.
 *
 * @throws SieveError `no-curve` where the run's metric has no such measure
 */
export function inMeasure(run: RunCurve, measure: 'error' | 'score'): RunCurve {
  const metric = metricNamed(run.metric);
  if (metric.better === (measure === 'error' ? 'lower' : 'higher')) return run;
  const [low, high] = metric.range;
  if (low !== 0 || high !== 1)
    throw new SieveError(
      'no-curve',
      `The run is judged by ${metric.name}, which cannot be shown as ${measure === 'error' ? 'an error' : 'a score'}.`,
      { field: 'run' },
    );
  return {
    ...run,
    points: run.points.map((point) => ({
      ...point,
      mean: point.mean === null ? null : 1 - point.mean,
      ...(point.training == null ? {} : { training: 1 - point.training }),
    })),
  };
}
