import type { Check } from '../../foundation/check.js';
import { correctedVariance } from '../comparison/over-folds.js';
import { studentTwoSided } from '../../foundation/statistics/distributions.js';
import { metricNamed } from '../../metrics/registry.js';
import { at } from '../../foundation/numbers.js';
import { curveSays } from './curve-says.js';
import type { Run } from './run.js';
import { searchSays } from './search-says.js';
import { gainOver, isGain } from './verdict-tests.js';
import { say, shown } from './wording.js';

/**
 * What a run shows, in sentences: which setting is enough, where it memorises, whether it beats guessing. Nothing of one
 * that is not done. Each verdict rests on a test over the folds; docs/verdicts.md has its false alarms.
 */
export function trialSays(run: Run): Check[] {
  if (run.settings.length === 0) return [];
  return [
    ...(run.search ? searchSays(run, run.search.luck) : curveSays(run)),
    ...foldsSay(run),
    ...baselineSays(run),
    ...majoritySays(run),
    ...groupingSays(run),
    ...triedSays(run),
  ];
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
        'compare it with always predicting the positive class, which reaches 2p / (1 + p) at a share of p',
      ),
    ];
  if (isGain(test)) return [say('baseline', 'holds', 'Better than guessing', measured)];
  if (test && test.difference < 0 && test.p < 0.05)
    return [say('baseline', 'fails', 'Worse than guessing', measured)];
  return [say('baseline', 'unsure', 'Not shown to be better than guessing', measured)];
}

/**
 * Accuracy beside the share of the most frequent class, by the same test. A model judged by another metric may rank rows
 * well and yet be right no more often than a constant.
 */
function majoritySays({ settings, place, metric, majority, isBaseline, folds }: Run): Check[] {
  const accuracy = at(settings, place).metrics['accuracy'];
  if (isBaseline || majority === null || metric.key === 'accuracy' || !accuracy || accuracy.mean === null)
    return [];
  const test = gainOver(metricNamed('accuracy'), accuracy.folds, majority.folds, folds);
  const measured = `accuracy ${shown(accuracy.mean)}, the most frequent class ${shown(majority.mean)}${test ? `; p ${shown(test.p)} over the folds` : ''}`;
  if (isGain(test))
    return [
      say('majority', 'holds', 'Right more often than always predicting the most frequent class', measured),
    ];
  return [
    say('majority', 'unsure', 'Not shown to be right more often than the most frequent class', measured),
  ];
}

/**
 * Whether random folds give a better figure than folds that keep groups whole, for the same model. The folds are not
 * paired: the variance of the difference is the sum of both corrected variances (Nadeau and Bengio, 2003), which is too
 * large rather than too small, since both are over the same rows.
 */
function groupingSays({ metric, grouping }: Run): Check[] {
  if (grouping === null) return [];
  const { column, random, grouped } = grouping;
  const spreads = [random, grouped].map(({ folds, k }) => {
    const known = folds.flatMap((value) => (value === null ? [] : [value]));
    return known.length < folds.length || k < 2 ? null : correctedVariance(known, 1 / (k - 1));
  });
  const [a, b] = spreads;
  if (a === null || a === undefined || b === null || b === undefined || a + b === 0) return [];
  const gain = (metric.better === 'higher' ? 1 : -1) * (random.mean - grouped.mean);
  const df = Math.min(random.folds.length, grouped.folds.length) - 1;
  const p = studentTwoSided(gain / Math.sqrt(a + b), df);
  const measured = `random folds give ${shown(random.mean)}, folds with each ${column} whole ${shown(grouped.mean)}; p ${shown(p)}`;
  return gain > 0 && p / 2 < 0.025
    ? [
        say(
          'grouping',
          'fails',
          `Random folds are too good: rows of one ${column} are on both sides`,
          measured,
        ),
      ]
    : [
        say(
          'grouping',
          'unsure',
          `Random folds are not shown to be better than with each ${column} whole`,
          measured,
        ),
      ];
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
