import { check, type Check, type Outcome } from '../check/check.js';
import type { Metric } from '../metrics/metric.js';
import { metricNamed } from '../metrics/registry.js';
import { at, shortNumber } from '../numbers.js';
import { TRAINING_SHARE } from './plan.js';
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
  /** The mean of the best baseline over the same folds; null where none was fitted. */
  readonly baseline: number | null;
  /** Whether the run is itself a baseline. */
  readonly isBaseline: boolean;
}

const shown = (value: number | null): string => (value === null ? '–' : shortNumber(value));

const say = (id: string, outcome: Outcome, message: string, measured: string): Check =>
  check(id, outcome, message, { measured });

/** What a run says, in sentences: which setting is enough, where it memorises, whether it beats guessing. Nothing of one that is not done. */
export function trialSays(run: Run): Check[] {
  if (run.settings.length === 0) return [];
  return [...curveSays(run), ...foldsSay(run), ...baselineSays(run)];
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

function curveSays({ settings, choices, metric, labels }: Run): Check[] {
  if (settings.some(({ values }) => TRAINING_SHARE in values)) return sizeSays(settings, metric);
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
    ...atTheEnd({ settings, choice, name }),
    ...disagree({ settings, choices, metric, name }),
  ];
}

/** Whether the last rows that were added to a curve by training size still helped. */
function sizeSays(settings: readonly SettingSummary[], metric: Metric): Check[] {
  const isAlone = settings.every(({ values }) => Object.keys(values).length === 1);
  const bySize = [...settings].sort(
    (a, b) => (a.values[TRAINING_SHARE] ?? 0) - (b.values[TRAINING_SHARE] ?? 0),
  );
  const [before, last] = bySize.slice(-2).map(({ metrics }) => metrics[metric.key]);
  if (!isAlone || !before || !last || before.mean === null || last.mean === null) return [];
  const gain = metric.better === 'higher' ? last.mean - before.mean : before.mean - last.mean;
  const measured = `from ${shown(before.mean)} to ${shown(last.mean)} ± ${shown(last.se)} with the last rows`;
  return [
    gain > (last.se ?? 0)
      ? say('size', 'unsure', 'More rows would help further', measured)
      : say('size', 'holds', 'More rows would help little', measured),
  ];
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

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
    return say('memorises', 'holds', 'No setting memorises', 'none gains on training rows alone');
  const gap = at(settings, last).metrics[metric.key]?.gap ?? null;
  return say(
    'memorises',
    'fails',
    `Beyond ${name(best)} it memorises`,
    `at ${name(last)} it is ${shown(gap)} better on training rows than on rows held back, and no better there`,
  );
}

/** The best setting may lie where the curve ends. */
function atTheEnd({
  settings,
  choice: { best },
  name,
}: {
  settings: readonly SettingSummary[];
  choice: Choice;
  name: (place: number) => string;
}): Check[] {
  const keys = Object.keys(at(settings, best).values);
  const [key] = keys;
  if (keys.length !== 1 || key === undefined) return [];
  const own = at(settings, best).values[key] ?? 0;
  const all = settings.map(({ values }) => values[key] ?? 0);
  if (own !== Math.min(...all) && own !== Math.max(...all)) return [];
  return [
    say(
      'end',
      'unsure',
      'The best lies where the curve ends',
      `${name(best)}: settings beyond it may be better`,
    ),
  ];
}

/** Metrics may choose differently, most of all where classes are rare. */
function disagree({
  settings,
  choices,
  metric,
  name,
}: {
  settings: readonly SettingSummary[];
  choices: Run['choices'];
  metric: Metric;
  name: (place: number) => string;
}): Check[] {
  const own = choices[metric.key];
  const others = Object.entries(choices).flatMap(([key, choice]) =>
    choice && own && choice.best !== own.best && key !== metric.key
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
  const measured = `the validation part gives ${shown(validation)}, the folds ${shown(summary.mean)} ± ${shown(summary.se)}`;
  if (Math.abs(better) <= 2 * summary.se)
    return [say('single', 'holds', 'One split says the same as the folds', measured)];
  return [
    say(
      'single',
      'unsure',
      better > 0 ? 'One split would have flattered it' : 'One split would have wronged it',
      measured,
    ),
  ];
}

function baselineSays({ settings, place, metric, baseline, isBaseline }: Run): Check[] {
  if (isBaseline) return [];
  const summary = at(settings, place).metrics[metric.key];
  if (!summary || summary.mean === null) return [];
  if (baseline === null)
    return [
      say(
        'baseline',
        'unsure',
        'No baseline was fitted over these folds',
        'fit one first: a figure says little beside nothing',
      ),
    ];
  const gain = metric.better === 'higher' ? summary.mean - baseline : baseline - summary.mean;
  const measured = `the best baseline has ${shown(baseline)}`;
  if (gain > (summary.se ?? 0)) return [say('baseline', 'holds', 'Better than guessing', measured)];
  return [say('baseline', 'fails', 'No better than guessing', measured)];
}
