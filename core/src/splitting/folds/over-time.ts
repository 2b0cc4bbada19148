import { SieveError } from '../../foundation/errors.js';
import { at, counted } from '../../foundation/numbers.js';
import { sortedValues } from '../../foundation/statistics/tally.js';
import { columnNamed } from '../../data/table/table.js';
import { timelineOf, type Timeline } from '../algorithms/time.js';
import { foldSplitter, type FoldMethod, type FoldRequest, type MadeFolds } from './fold-splitter.js';
import { trainsOnThePast } from './invariants.js';
import { gap, k, time } from './parameters.js';

const expanding: FoldMethod = {
  name: 'expanding',
  id: 'expanding-window@1',
  title: 'over an expanding window of time',
  needs: ['k', 'time'],
  isRandom: false,
  chosenBy: ['time'],
  invariants: [trainsOnThePast],
  make: timeFolds,
};

const sliding: FoldMethod = {
  name: 'sliding',
  id: 'sliding-window@1',
  title: 'over a sliding window of time',
  needs: ['k', 'time', 'window'],
  isRandom: false,
  chosenBy: ['time', 'window'],
  invariants: [trainsOnThePast],
  make: timeFolds,
};

function timeFolds({ table, plan, rows }: FoldRequest): MadeFolds {
  const { k = 0, time = '', window, gap } = plan;
  const timeline = timelineOf(columnNamed(table, time), rows);
  const length = plan.method === 'sliding' ? (window ?? Infinity) : Infinity;
  return foldsOverTime(rows, timeline, table.rowCount, { k, window: length, gap: gap ?? 0 });
}

/**
 * expanding-window@1 and sliding-window@1: rows in order of time are cut into k + 1 blocks as equal as whole times
 * allow; fold f tests block f + 1 and trains on what lies before it, the gap left out, all of it or the last window.
 *
 * @param window in days for times, in units of the column for numbers; Infinity for all that lies before
 * @param gap in the same unit
 * @throws SieveError `too-few-times` where there are fewer times than blocks or a fold has nothing to train on
 */
function foldsOverTime(
  rows: Int32Array,
  timeline: Timeline,
  rowCount: number,
  { k, window, gap }: { readonly k: number; readonly window: number; readonly gap: number },
): MadeFolds {
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

export const expandingWindow = foldSplitter({
  key: 'expanding',
  title: 'over time, training on all that was before',
  about:
    'Rows in order of time are cut into one block more than folds; each fold tests a block and trains on all before it.',
  parameters: { k, time, gap },
  sentence: () =>
    'In order of {time} test {k} blocks one after another, each after training on all that lies before it with a gap of {gap}.',
  methods: [expanding],
  ask: (values) => ({ method: 'expanding', seed: 0, ...values }),
});

export const slidingWindow = foldSplitter({
  key: 'sliding',
  title: 'over time, training on a window',
  about:
    'The same, training on the last window of time before each block: days for dates, units of the column for numbers.',
  parameters: { k, time, window: { type: 'number', label: 'window', min: 0.000001, start: 365 }, gap },
  sentence: () =>
    'In order of {time} test {k} blocks one after another, each after training on the last {window} before it with a gap of {gap}.',
  methods: [sliding],
  ask: (values) => ({ method: 'sliding', seed: 0, ...values }),
});
