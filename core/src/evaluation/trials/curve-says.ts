import type { Check } from '../../foundation/check.js';
import type { Metric } from '../../metrics/metric.js';
import { metricNamed } from '../../metrics/registry.js';
import { at } from '../../foundation/numbers.js';
import { TRAINING_SHARE } from './plan.js';
import type { Run } from './run.js';
import type { Choice } from './summary.js';
import type { SettingSummary } from './setting-summary.js';
import { foldsOf, gainOver, isGain, mostGain } from './verdict-tests.js';
import { capital, meanText, say, settingText, shown } from './wording.js';

/** What a curve over settings, or over sizes of the training rows, shows. */
export function curveSays({ settings, choices, metric, labels, limits, folds }: Run): Check[] {
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
 * The best of several settings is chosen by the very folds that judge it. By how much its figure is too good is estimated
 * by what the best setting of each fold gains there over the chosen one, as a mean over the folds (Tibshirani and
 * Tibshirani, Annals of Applied Statistics 3, 2009).
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
    `${shown(at(settings, best).metrics[metric.key]?.mean ?? null)}; by estimate ${shown(bias)} too good; nested folds or held-out rows would show`,
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
export function disagree({
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
  return [say('metrics', 'unsure', 'Other metrics would choose differently', others.join(', '))];
}
