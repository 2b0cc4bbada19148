import { at } from '../../foundation/numbers.js';
import type { Random } from '../../foundation/random/random.js';
import { figureOf, resampled, type Judged } from '../../metrics/judged.js';
import type { Metric } from '../../metrics/metric.js';

/** How much of the figure of the best setting comes from its having been chosen as the best. */
export interface Luck {
  /** The figure of the best setting, over all rows out of fold. */
  readonly seen: number;
  /** What a setting that is chosen so gives on rows that had no say in the choice. */
  readonly expected: number;
  /** By how much `seen` is better than `expected`. */
  readonly luck: number;
  /** How much better than the setting begun with, on rows that had no say, with the middle 95 % of the samples. */
  readonly lead: { readonly mean: number; readonly low: number; readonly high: number } | null;
  /** Settings that were chosen among. */
  readonly settings: number;
}

const MOST_SAMPLES = 200;
const FEWEST_SAMPLES = 50;
/** Rows × settings × samples that are looked at, about. */
const WORK = 4e7;

/**
 * The bootstrap bias correction of a search (Tsamardinos, Greasidou and Borboudakis, Machine Learning 107, 2018): samples
 * of the rows choose a setting by its predictions out of fold, and the rows that a sample left out judge it. No model is
 * fitted again.
 *
 * @param settings predictions of each setting on the same rows, each out of fold; the first is the one begun with
 * @param groups of the rows, which are drawn whole; null where each row stands for itself
 * @returns null where fewer than two settings, or too few samples, have a figure
 */
export function luckOf(
  settings: readonly Judged[],
  metric: Metric,
  groups: Int32Array | null,
  random: Random,
): Luck | null {
  const sign = metric.better === 'higher' ? 1 : -1;
  const rows = at(settings, 0).data.truth.length;
  const score = (place: number, of: Int32Array | null) => {
    const own = at(settings, place);
    return sign * (figureOf(metric, of ? resampled(own, of) : own).value ?? NaN);
  };
  const chosenBy = (of: Int32Array | null): number => {
    let [best, most] = [-1, -Infinity];
    for (let place = 0; place < settings.length; place++) {
      const own = score(place, of);
      if (own > most) [best, most] = [place, own];
    }
    return best;
  };
  const winner = chosenBy(null);
  if (settings.length < 2 || winner < 0) return null;
  const samples = Math.max(
    FEWEST_SAMPLES,
    Math.min(MOST_SAMPLES, Math.round(WORK / (rows * settings.length))),
  );
  const draw = sampler(rows, groups, random);
  const expected: number[] = [];
  const leads: number[] = [];
  for (let i = 0; i < samples; i++) {
    const { inside, outside } = draw();
    const place = outside.length > 0 ? chosenBy(inside) : -1;
    if (place < 0) continue;
    const own = score(place, outside);
    if (Number.isNaN(own)) continue;
    expected.push(own);
    const lead = own - score(0, outside);
    if (!Number.isNaN(lead)) leads.push(lead);
  }
  if (expected.length < samples / 2) return null;
  const seen = score(winner, null);
  const mean = meanOf(expected);
  return {
    seen: sign * seen,
    expected: sign * mean,
    luck: seen - mean,
    lead: leads.length < samples / 2 ? null : { mean: meanOf(leads), ...middle(leads) },
    settings: settings.length,
  };
}

const meanOf = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/** The middle 95 %. */
function middle(values: readonly number[]): { low: number; high: number } {
  const sorted = [...values].sort((a, b) => a - b);
  const out = Math.floor(sorted.length * 0.025);
  return { low: at(sorted, out), high: at(sorted, sorted.length - 1 - out) };
}

/** Draws rows, or whole groups of them, with replacement; the rows that were not drawn are outside. */
function sampler(rows: number, groups: Int32Array | null, random: Random) {
  const members = new Map<number, number[]>();
  for (let row = 0; row < rows; row++) {
    const group = groups ? at(groups, row) : row;
    const own = members.get(group);
    if (own) own.push(row);
    else members.set(group, [row]);
  }
  const all = [...members.values()];
  return () => {
    const drawn = new Uint8Array(all.length);
    const inside: number[] = [];
    for (let i = 0; i < all.length; i++) {
      const place = random.below(all.length);
      drawn[place] = 1;
      for (const row of at(all, place)) inside.push(row);
    }
    const outside = all.flatMap((own, place) => (drawn[place] === 1 ? [] : own));
    return { inside: Int32Array.from(inside), outside: Int32Array.from(outside) };
  };
}
