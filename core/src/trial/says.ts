import type { Check } from '../check/check.js';
import { at } from '../numbers.js';
import { curveSays } from './curve-says.js';
import type { Run } from './run.js';
import { gainOver, isGain } from './verdict-tests.js';
import { say, shown } from './wording.js';

/**
 * What a run shows, in sentences: which setting is enough, where it memorises, whether it beats guessing. Nothing of one
 * that is not done. Each verdict rests on a test over the folds; docs/verdicts.md has its false alarms.
 */
export function trialSays(run: Run): Check[] {
  if (run.settings.length === 0) return [];
  return [...curveSays(run), ...foldsSay(run), ...baselineSays(run), ...triedSays(run)];
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
