import { check, type Check, type Outcome } from '../check/check.js';
import type { Metric } from '../metrics/metric.js';
import { metricNamed } from '../metrics/registry.js';
import { at, shortNumber } from '../numbers.js';
import { TRAINING_SHARE } from './plan.js';
import { foldsOf, gainOver, isGain, mostGain } from './verdict-tests.js';
import type { Choice, SettingSummary } from './summary.js';

/** What is known of a run when it is judged. */
export interface Run {
  readonly settings: readonly SettingSummary[];
  readonly choices: Readonly<Record<string, Choice | null>>;
  readonly place: number;
  /** The metric that it is judged by. */
  readonly metric: Metric;
  /** The names of the varied settings, by their keys. */
  readonly labels: Readonly<Record<string, string>>;
  /** The figure on the validation part; null where there is none. */
  readonly validation: number | null;
  /** Settings that can be: a curve that ends at such a limit ends where nothing is beyond. */
  readonly limits: Readonly<Record<string, { readonly min?: number; readonly max?: number }>>;
  /** Folds in one repeat. */
  readonly folds: number;
  /** The best baseline over the same folds; null where none was fitted. */
  readonly baseline: { readonly mean: number; readonly folds: readonly (number | null)[] } | null;
  /** Runs that were tried on these folds. */
  readonly tried: number;
  /** Whether the run is itself a baseline. */
  readonly isBaseline: boolean;
}

const shown = (value: number | null): string => (value === null ? '–' : shortNumber(value));

const say = (id: string, outcome: Outcome, message: string, measured: string): Check =>
  check(id, outcome, message, { measured });

/**
 * What a run shows, in sentences: which setting is enough, where it memorises, whether it beats guessing. Nothing of one
 * that is not done. Each verdict rests on a test over the folds; docs/verdicts.md has its false alarms.
 */
export function trialSays(run: Run): Check[] {
  if (run.settings.length === 0) return [];
  return [...curveSays(run), ...foldsSay(run), ...baselineSays(run), ...triedSays(run)];
}

/** "depth 4", "penalty 0.021 and mixing 0.5". */
export const settingText = (
  values: Readonly<Record<string, number>>,
  labels: Readonly<Record<string, string>>,
): string =>
  Object.entries(values)
    .map(([key, value]) => `${labels[key] ?? key} ${shown(value)}`)
    .join(' and ');

const meanText = (settings: readonly SettingSummary[], place: number, { key }: Metric): string => {
  const summary = at(settings, place).metrics[key];
  const { mean = null, se = null } = summary ?? {};
  return se === null ? shown(mean) : `${shown(mean)} ± ${shown(se)}`;
};

function curveSays({ settings, choices, metric, labels, limits, folds }: Run): Check[] {
  if (settings.some(({ values }) => TRAINING_SHARE in values)) return sizeSays(settings, metric, folds);
  const choice = choices[metric.key];
  if (settings.length < 2 || !choice) return [];
  const name = (place: number) => settingText(at(settings, place).values, labels);
  const text = (place: number) => meanText(settings, place, metric);
  const { best, simplest } = choice;
  const enough =
    best === simplest
      ? say(
          'enough',
          'holds',
          `${capital(name(best))} is best`,
          `${text(best)}; nothing simpler comes within one standard error`,
        )
      : say(
          'enough',
          'holds',
          `${capital(name(simplest))} is enough`,
          `${text(simplest)}; the best is ${name(best)} with ${text(best)}, within one standard error`,
        );
  return [
    enough,
    memorises({ settings, choice, metric, name }),
    flattered({ settings, choice, metric, name }),
    ...atTheEnd({ settings, choice, name, limits }),
    ...disagree({ settings, choices, metric, name, folds }),
  ];
}

/** Sizes of a curve by training size whose rise is judged. */
const LAST_SIZES = 3;
/** Share of the error that more rows must be shown to save less than, before they are called of little help. */
const LITTLE = 0.05;

/** Whether the last sizes of a curve by training size still rise, by the differences in each fold. */
function sizeSays(settings: readonly SettingSummary[], metric: Metric, folds: number): Check[] {
  const isAlone = settings.every(({ values }) => Object.keys(values).length === 1);
  const bySize = [...settings].sort(
    (a, b) => (a.values[TRAINING_SHARE] ?? 0) - (b.values[TRAINING_SHARE] ?? 0),
  );
  const last = bySize.at(-1);
  const before = bySize.at(-LAST_SIZES);
  const [from, to] = [before?.metrics[metric.key]?.mean ?? null, last?.metrics[metric.key]?.mean ?? null];
  if (!isAlone || from === null || to === null) return [];
  const test = gainOver(metric, foldsOf(last, metric), foldsOf(before, metric), folds);
  const error = metric.better === 'higher' && metric.range[1] !== null ? metric.range[1] - to : Math.abs(to);
  const measured = `from ${shown(from)} to ${shown(to)} over the last ${LAST_SIZES} sizes${test ? `, standard error ${shown(test.se)}` : ''}`;
  if (isGain(test)) return [say('size', 'unsure', 'More rows would help further', measured)];
  if (test && mostGain(test) < LITTLE * error)
    return [say('size', 'holds', 'More rows would help little', measured)];
  return [say('size', 'unsure', 'Whether more rows would help cannot be shown', measured)];
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Settings that `chooseSetting` found to be overfitted. */
function memorises({
  settings,
  choice: { best, memorising },
  metric,
  name,
}: {
  settings: readonly SettingSummary[];
  choice: Choice;
  metric: Metric;
  name: (place: number) => string;
}): Check {
  const last = memorising.at(-1);
  if (last === undefined)
    return say(
      'memorises',
      'holds',
      'No setting is shown to memorise',
      'the most complex is not worse out of fold than the best by more than chance',
    );
  const gap = at(settings, last).metrics[metric.key]?.gap ?? null;
  return say(
    'memorises',
    'fails',
    `Beyond ${name(best)} it memorises`,
    `at ${name(last)} it is ${shown(gap)} better on training rows than out of fold, and worse there than at ${name(best)} by more than chance`,
  );
}

/**
 * The figure of the best of several settings is chosen by the very folds that judge it: each fold's choice is judged by
 * that fold alone here, chosen by the others (Tibshirani and Tibshirani, Annals of Applied Statistics 3, 2009).
 */
function flattered({
  settings,
  choice: { best },
  metric,
  name,
}: {
  settings: readonly SettingSummary[];
  choice: Choice;
  metric: Metric;
  name: (place: number) => string;
}): Check {
  const sign = metric.better === 'higher' ? 1 : -1;
  const all = settings.map((setting) => foldsOf(setting, metric));
  const own = at(all, best);
  const isKnown = own.length > 1 && all.every((one) => one.length === own.length && !one.includes(null));
  if (!isKnown)
    return say(
      'flattered',
      'unsure',
      `The figure of ${name(best)} is chosen as the best`,
      'and so a little too good',
    );
  const figure = (place: number, fold: number) => sign * (at(all, place)[fold] ?? 0);
  let bias = 0;
  own.forEach((_, fold) => {
    const bestHere = Math.max(...all.map((__, place) => figure(place, fold)));
    bias += (bestHere - figure(best, fold)) / own.length;
  });
  return say(
    'flattered',
    'unsure',
    `The figure of ${name(best)} is chosen as the best of ${settings.length}`,
    `${shown(at(settings, best).metrics[metric.key]?.mean ?? null)}; it is too good by at most about ${shown(bias)}, which nested folds or held-out rows would show`,
  );
}

/** The best setting may lie where the curve ends, and settings beyond exist. */
function atTheEnd({
  settings,
  choice: { best },
  name,
  limits,
}: {
  settings: readonly SettingSummary[];
  choice: Choice;
  name: (place: number) => string;
  limits: Run['limits'];
}): Check[] {
  const keys = Object.keys(at(settings, best).values);
  const [key] = keys;
  if (keys.length !== 1 || key === undefined) return [];
  const own = at(settings, best).values[key] ?? 0;
  const all = settings.map(({ values }) => values[key] ?? 0);
  const { min = -Infinity, max = Infinity } = limits[key] ?? {};
  const isLast = (own === Math.min(...all) && own > min) || (own === Math.max(...all) && own < max);
  if (!isLast) return [];
  return [
    say(
      'end',
      'unsure',
      'The best lies where the curve ends',
      `${name(best)}: settings beyond it may be better`,
    ),
  ];
}

/** Metrics may choose differently, most of all where classes are rare: shown where the other choice is worse here. */
function disagree({
  settings,
  choices,
  metric,
  name,
  folds,
}: {
  settings: readonly SettingSummary[];
  choices: Run['choices'];
  metric: Metric;
  name: (place: number) => string;
  folds: number;
}): Check[] {
  const own = choices[metric.key];
  const isWorse = (best: number, other: number) =>
    isGain(
      gainOver(metric, foldsOf(at(settings, best), metric), foldsOf(at(settings, other), metric), folds),
      Object.keys(choices).length - 1,
    );
  const others = Object.entries(choices).flatMap(([key, choice]) =>
    choice && own && choice.best !== own.best && key !== metric.key && isWorse(own.best, choice.best)
      ? [`${name(choice.best)} by ${metricNamed(key).name}`]
      : [],
  );
  if (others.length === 0 || settings.length < 2) return [];
  return [say('metrics', 'unsure', 'Other metrics would choose otherwise', others.join(', '))];
}

function foldsSay({ settings, place, metric, validation }: Run): Check[] {
  const summary = at(settings, place).metrics[metric.key];
  if (!summary || summary.mean === null)
    return [
      say('folds', 'unsure', 'There is no mean over the folds', summary?.reason ?? 'it was not measured'),
    ];
  if (validation === null || summary.se === null) return [];
  const better = metric.better === 'higher' ? validation - summary.mean : summary.mean - validation;
  // A single part is as uncertain as a single fold, about.
  const single = summary.se * Math.sqrt(summary.folds.length);
  const error = Math.sqrt(summary.se ** 2 + single ** 2);
  const measured = `the validation part gives ${shown(validation)}, the folds ${shown(summary.mean)} ± ${shown(summary.se)}; one part is off by about ${shown(single)}`;
  if (summary.folds.length < 3 || Math.abs(better) <= 3 * error)
    return [say('single', 'holds', 'One split shows the same as the folds', measured)];
  return [
    say(
      'single',
      'unsure',
      better > 0 ? 'One split is better than the folds' : 'One split is worse than the folds',
      measured,
    ),
  ];
}

/** By the corrected resampled t-test against the best baseline in the same folds. */
function baselineSays({ settings, place, metric, baseline, isBaseline, folds }: Run): Check[] {
  if (isBaseline) return [];
  const summary = at(settings, place).metrics[metric.key];
  if (!summary || summary.mean === null) return [];
  if (baseline === null)
    return [
      say(
        'baseline',
        'unsure',
        'No baseline was fitted over these folds',
        'fit one first: a figure means little without one',
      ),
    ];
  const test = gainOver(metric, summary.folds, baseline.folds, folds);
  const measured = `the best baseline has ${shown(baseline.mean)}${test ? `; p ${shown(test.p)} over the folds` : ''}`;
  if (metric.key === 'f1')
    return [
      say(
        'baseline',
        'unsure',
        'F1 has no baseline of this kind',
        'compare it with always saying the positive class, which reaches 2p / (1 + p) at a share of p',
      ),
    ];
  if (isGain(test)) return [say('baseline', 'holds', 'Better than guessing', measured)];
  if (test && test.difference < 0 && test.p < 0.05)
    return [say('baseline', 'fails', 'Worse than guessing', measured)];
  return [say('baseline', 'unsure', 'Not shown to be better than guessing', measured)];
}

/** Runs on the same folds from which on the best of them is flattered noticeably: common practice. */
const MANY_RUNS = 10;

/** The more is tried on the same folds, the better the best of it looks by chance. */
const triedSays = ({ tried, settings }: Run): Check[] =>
  tried < MANY_RUNS
    ? []
    : [
        say(
          'tried',
          'unsure',
          `${tried} runs were tried on these folds`,
          `this one with ${settings.length} setting${settings.length === 1 ? '' : 's'}: the best of many looks better than it is`,
        ),
      ];
