import type { Check } from '../../foundation/check.js';
import { at } from '../../foundation/numbers.js';
import type { Metric } from '../../metrics/metric.js';
import type { Luck } from '../search/luck.js';
import { disagree } from './curve-says.js';
import { TRAINING_SHARE } from './plan.js';
import type { Run } from './run.js';
import { meanText, say, settingText, shown } from './wording.js';

/** What a search shows: its best setting, how much of that is luck, and whether it does better than where it began. */
export function searchSays({ settings, choices, metric, labels, folds }: Run, luck: Luck | null): Check[] {
  const choice = choices[metric.key];
  if (settings.length < 2 || !choice) return [];
  const { best, simplest } = choice;
  const name = (place: number) => {
    const values = Object.entries(at(settings, place).values).filter(([key]) => key !== TRAINING_SHARE);
    return settingText(Object.fromEntries(values), labels);
  };
  const text = (place: number) => meanText(settings, place, metric);
  return [
    say(
      'best',
      'holds',
      `Of ${settings.length} settings the best is ${name(best)}`,
      best === simplest
        ? `${text(best)}; nothing simpler comes within one standard error`
        : `${text(best)}; ${name(simplest)} is simpler and within one standard error, ${text(simplest)}`,
    ),
    ...luckSays(luck, metric),
    ...disagree({ settings, choices, metric, name, folds }),
  ];
}

/** The judge of the lead is the lower end of the middle 95 % of its samples; docs/verdicts.md has its false alarms. */
function luckSays(luck: Luck | null, metric: Metric): Check[] {
  if (!luck)
    return [
      say(
        'luck',
        'unsure',
        `How much of the best ${metric.name} is luck is not known`,
        'fewer than two settings were measured on all training rows, or there are too many predictions to keep',
      ),
    ];
  const { seen, expected, lead } = luck;
  const measured = `${shown(seen)} on all rows out of fold; a setting that is chosen among ${luck.settings} gives ${shown(expected)} on rows that had no say in the choice`;
  const says = [
    luck.luck > 0
      ? say('luck', 'unsure', `About ${shown(luck.luck)} of the best ${metric.name} may be luck`, measured)
      : say('luck', 'holds', `The best ${metric.name} owes nothing to luck that can be seen`, measured),
  ];
  if (!lead) return says;
  const range = `by ${shown(lead.mean)}, ${shown(lead.low)} to ${shown(lead.high)} in the middle 95 % of samples of the rows`;
  says.push(
    lead.low > 0
      ? say('lead', 'holds', 'Better than the setting that the search began with', range)
      : say('lead', 'unsure', 'Not shown to be better than the setting that the search began with', range),
  );
  return says;
}
