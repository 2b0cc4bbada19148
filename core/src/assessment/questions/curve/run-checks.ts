import { check, type Check } from '../../../foundation/check.js';
import { SieveError } from '../../../foundation/errors.js';
import { metricNamed } from '../../../metrics/registry.js';
import { at, shortNumber } from '../../../foundation/numbers.js';
import { WORK } from '../contract/credit.js';
import type { RunCurve } from '../../material/run-curve.js';
import type { CurveRules } from './question.js';

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
