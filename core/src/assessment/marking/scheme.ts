import { SieveError } from '../../foundation/errors.js';
import type { Metric } from '../../metrics/metric.js';

/** Marks by a metric: a line through three points. Scores beyond the ends get none or all. */
export interface MarkScheme {
  /** Score up to which there are no marks. */
  readonly nothing: number;
  /** Score that earns `mostMarks`. */
  readonly most: number;
  /** Score from which all marks are earned. */
  readonly all: number;
  readonly mostMarks: number;
  readonly marks: number;
  /** Whether a score that misses a point by no more than a standard error counts as the point. */
  readonly doubt?: boolean;
}

/** @throws SieveError `marks` with the point that does not fit */
export function checkScheme(scheme: MarkScheme, metric: Pick<Metric, 'better' | 'name' | 'range'>): void {
  const fail = (field: string, message: string) => {
    throw new SieveError('marks', message, { field });
  };
  const [low, high] = metric.range;
  for (const field of ['nothing', 'most', 'all'] as const) {
    const score = scheme[field];
    if (!Number.isFinite(score)) fail(field, 'A point on the line is a number.');
    if ((low !== null && score < low) || (high !== null && score > high)) {
      fail(field, `${score} is no value that ${metric.name} can take.`);
    }
  }
  const way = metric.better === 'higher' ? 1 : -1;
  if (way * (scheme.most - scheme.nothing) <= 0 || way * (scheme.all - scheme.most) <= 0) {
    fail(
      'most',
      `The points must get ${way > 0 ? 'higher' : 'lower'} from nothing to most to all: for ${metric.name}, ${metric.better} is better.`,
    );
  }
  if (!(scheme.marks > 0 && scheme.marks <= 1000))
    fail('marks', 'All marks are a number above 0, up to 1,000.');
  if (!(scheme.mostMarks > 0 && scheme.mostMarks < scheme.marks)) {
    fail('mostMarks', `The marks for most lie between 0 and ${scheme.marks}.`);
  }
}

/** The marks of a score, rounded to two places (halves up). No score, no marks. */
export function marksFor(scheme: MarkScheme, score: number | null): number {
  if (score === null) return 0;
  const way = scheme.all > scheme.nothing ? 1 : -1;
  const along = (from: number, to: number) => (score - from) / (to - from);
  let marks: number;
  if (way * (score - scheme.nothing) <= 0) marks = 0;
  else if (way * (score - scheme.all) >= 0) marks = scheme.marks;
  else if (way * (score - scheme.most) <= 0) marks = scheme.mostMarks * along(scheme.nothing, scheme.most);
  else marks = scheme.mostMarks + (scheme.marks - scheme.mostMarks) * along(scheme.most, scheme.all);
  return Math.round(marks * 100 + 1e-9) / 100;
}

/**
 * Points to begin with, which the instructor moves: for shares between guessing and very good; for errors in the
 * target's unit from its standard deviation (what predicting the mean costs) down to half of it. Common practice.
 *
 * @param sd standard deviation of the target; 1 where it is not known
 */
export function firstScheme(metric: Metric, sd: number): MarkScheme {
  const rounded = (value: number) => Number(value.toPrecision(2));
  const marks = { mostMarks: 8, marks: 10 };
  if (metric.needs === 'numbers' && metric.better === 'lower') {
    const unit = { target: sd, 'target²': sd * sd, none: 1 }[metric.unit];
    return { nothing: rounded(unit), most: rounded(unit * 0.7), all: rounded(unit * 0.5), ...marks };
  }
  // Half a chance for each of two classes costs so much.
  const guess = { log_loss: 0.69, brier: 0.25 }[metric.key] ?? 0.5;
  if (metric.better === 'lower')
    return { nothing: guess, most: rounded(guess * 0.5), all: rounded(guess * 0.3), ...marks };
  // Guessing gets about 0 where less is possible, and about a half where it is not.
  const [low] = metric.range;
  return low === null || low < 0
    ? { nothing: 0, most: 0.5, all: 0.7, ...marks }
    : { nothing: 0.5, most: 0.75, all: 0.85, ...marks };
}

/** Of a score: points that lie nearer together would be the same when they are written. */
const SMALLEST_STEP = 1e-4;

/**
 * Points to begin with where models were tried: nothing at the baseline, most at the best of them, all half as far again
 * beyond it, and not more than halfway from there to a perfect score. Common practice.
 *
 * @returns null where no model is better than the baseline by more than a trace, or one is as good as perfect
 */
export function schemeFrom(metric: Metric, baseline: number, best: number): MarkScheme | null {
  const way = metric.better === 'higher' ? 1 : -1;
  const gap = way * (best - baseline);
  const perfect = metric.range[way > 0 ? 1 : 0];
  const beyond = perfect === null ? gap / 2 : Math.min(gap, Math.abs(perfect - best)) / 2;
  if (!(beyond > SMALLEST_STEP * Math.max(Math.abs(baseline), Math.abs(best)))) return null;
  // Half of the shorter distance, so that the points stay apart.
  const step = 10 ** Math.floor(Math.log10(Math.min(gap, beyond) / 2));
  const rounded = (value: number) => Number((Math.round(value / step) * step).toPrecision(6));
  return {
    nothing: rounded(baseline),
    most: rounded(best),
    all: rounded(best + way * beyond),
    mostMarks: 8,
    marks: 10,
  };
}
