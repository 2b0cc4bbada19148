import { SieveError } from '../errors.js';
import { at, counted } from '../numbers.js';
import { sortedValues } from '../tally/tally.js';
import type { Timeline } from '../split/time.js';
import type { Folds } from './folds.js';

/**
 * expanding-window@1 and sliding-window@1: rows in order of time are cut into k + 1 blocks as equal as whole times
 * allow; fold f tests block f + 1 and trains on what lies before it, the gap left out, all of it or the last window.
 *
 * @param window in days for times, in units of the column for numbers; Infinity for all that lies before
 * @param gap in the same unit
 * @throws SieveError `too-few-times` where there are fewer times than blocks or a fold has nothing to train on
 */
export function foldsOverTime(
  rows: Int32Array,
  timeline: Timeline,
  rowCount: number,
  { k, window, gap }: { readonly k: number; readonly window: number; readonly gap: number },
): Omit<Folds, 'method'> {
  const times = sortedValues(Float64Array.from(rows, (row) => at(timeline.values, row)));
  const starts = blockStarts(times, k + 1, timeline.name);
  const test = new Int32Array(rowCount).fill(-1);
  for (const row of rows) {
    const time = at(timeline.values, row);
    let block = 0;
    while (block < k && time >= at(starts, block)) block++;
    test[row] = block - 1;
  }
  const training = (_: number, fold: number): Int32Array => {
    const end = at(starts, fold) - gap * timeline.unit;
    const begin = end - window * timeline.unit;
    return rows.filter((row) => {
      const time = at(timeline.values, row);
      return time >= begin && (gap > 0 ? time < end : time < at(starts, fold));
    });
  };
  for (let fold = 0; fold < k; fold++) {
    if (training(0, fold).length === 0)
      throw new SieveError(
        'too-few-times',
        `Fold ${fold + 1} has nothing to train on: before it, gap and window leave no row.`,
        { field: gap > 0 ? 'gap' : 'window' },
      );
  }
  return { count: k, tests: [test], training, warnings: [] };
}

/** First times of the second and later blocks. Each block gets at least one time. */
function blockStarts(times: Float64Array, blocks: number, name: string): number[] {
  const firsts: number[] = [];
  for (let i = 0; i < times.length; i++) if (i === 0 || at(times, i) !== at(times, i - 1)) firsts.push(i);
  if (firsts.length < blocks)
    throw new SieveError(
      'too-few-times',
      `${name} has ${counted(firsts.length, 'different time')}; ${blocks - 1} folds need ${blocks}.`,
      { field: name },
    );
  const starts: number[] = [];
  let used = 0;
  for (let block = 1; block < blocks; block++) {
    const wanted = (times.length * block) / blocks;
    const latest = firsts.length - (blocks - block);
    let best = used + 1;
    while (best < latest && Math.abs(at(firsts, best + 1) - wanted) <= Math.abs(at(firsts, best) - wanted))
      best++;
    starts.push(at(times, at(firsts, best)));
    used = best;
  }
  return starts;
}
