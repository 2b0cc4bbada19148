import { check, type Check, type Outcome } from '../../foundation/check.js';
import type { Metric } from '../../metrics/metric.js';
import { at, shortNumber } from '../../foundation/numbers.js';
import type { SettingSummary } from './setting-summary.js';

export const shown = (value: number | null): string => (value === null ? '–' : shortNumber(value));

export const say = (id: string, outcome: Outcome, message: string, measured: string): Check =>
  check(id, outcome, message, { measured });

/** "depth 4", "penalty 0.021 and mixing 0.5", "depth 4, rounds 20 and penalty 1". */
export function settingText(
  values: Readonly<Record<string, number>>,
  labels: Readonly<Record<string, string>>,
): string {
  const parts = Object.entries(values).map(([key, value]) => `${labels[key] ?? key} ${shown(value)}`);
  return [parts.slice(0, -1).join(', '), ...parts.slice(-1)].filter((part) => part !== '').join(' and ');
}

export const meanText = (settings: readonly SettingSummary[], place: number, { key }: Metric): string => {
  const summary = at(settings, place).metrics[key];
  const { mean = null, se = null } = summary ?? {};
  return se === null ? shown(mean) : `${shown(mean)} ± ${shown(se)}`;
};

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
