import { SieveError } from '../../foundation/errors.js';
import { at } from '../../foundation/numbers.js';
import { sortedValues } from '../../foundation/statistics/tally.js';
import { numberOf, timeOf } from '../../data/table/cell.js';
import { isCoded, isMissing, type Column } from '../../data/table/table.js';
import { apportion } from './apportion.js';
import { LEFT_OUT } from '../parts/part-names.js';

const DAY = 86_400_000;

/** A column in whose order time runs: its values, and how many of them one unit of a gap is. */
export interface Timeline {
  readonly values: Float64Array;
  /** A day in milliseconds for times, 1 for numbers. */
  readonly unit: number;
  readonly name: string;
}

/** @throws SieveError `time-column` for texts, `missing-time` with the row */
export function timelineOf(column: Column, rows: Int32Array): Timeline {
  const { name } = column;
  if (isCoded(column))
    throw new SieveError('time-column', `${name} is a column of texts: it has no order in time.`, {
      field: name,
    });
  const missing = rows.find((row) => isMissing(column, row));
  if (missing !== undefined)
    throw new SieveError('missing-time', `Row ${missing + 1} has no ${name}, so it has no place in time.`, {
      field: name,
    });
  return { values: column.values, unit: column.kind === 'time' ? DAY : 1, name };
}

/** @throws SieveError `split-plan` where a text is no point in time of the column */
export function pointInTime(text: string, column: Column): number {
  const value = column.kind === 'time' ? timeOf(text)?.value : numberOf(text);
  if (value === undefined || Number.isNaN(value))
    throw new SieveError(
      'split-plan',
      `“${text}” is no ${column.kind === 'time' ? 'date (2024-05-31, or 2024-05-31T10:30)' : 'number'} to cut ${column.name} at.`,
      { field: 'cut-off' },
    );
  return value;
}

/**
 * time@1: parts in order of time, cut so that rows of one time stay together, at the place nearest to the
 * apportioned size that leaves rows on both sides. With a gap, rows of an earlier part that lie less than the gap
 * before the first row of the next part are left out, so that nothing known shortly before leaks over.
 *
 * @param cuts first times of the second and later parts, if they are given
 * @param gap in days for times, in units of the column for numbers; 0 or more
 */
export function splitByTime(
  rows: Int32Array,
  timeline: Timeline,
  weights: readonly number[],
  cuts: readonly number[] | null,
  gap: number,
  parts: Int8Array,
): void {
  const times =
    rows.length === 0
      ? new Float64Array()
      : sortedValues(Float64Array.from(rows, (row) => at(timeline.values, row)));
  const starts = cuts ?? startsOf(times, weights, timeline.name);
  const reach = gap * timeline.unit;
  for (const row of rows) {
    const time = at(timeline.values, row);
    const part = starts.filter((start) => time >= start).length;
    const next = starts[part];
    parts[row] = next !== undefined && reach > 0 && time >= next - reach ? LEFT_OUT : part;
  }
}

/** The first time of each part but the first; Infinity for a part that gets no rows. */
function startsOf(times: Float64Array, weights: readonly number[], name: string): number[] {
  const sizes = apportion(times.length, weights);
  const starts: number[] = [];
  const firsts = times.reduce<number[]>((all, time, i) => {
    if (i === 0 || time !== times[i - 1]) all.push(i);
    return all;
  }, []);
  let wanted = 0;
  let reached = 0;
  for (let part = 1; part < sizes.length; part++) {
    wanted += at(sizes, part - 1);
    const before = at(sizes, part - 1) > 0 ? 1 : 0;
    const later = sizes.slice(part).filter((size) => size > 0).length;
    const after = later > 0;
    // Each part that is still to come needs a time of its own.
    const most = firsts.at(-later) ?? 0;
    const cut = after ? nearestCut(times, wanted, reached + before, most) : times.length;
    if (cut === null || (cut >= times.length && after))
      throw new SieveError(
        'too-few-times',
        `${name} has too few different times for ${sizes.length} parts.`,
        {
          field: name,
        },
      );
    starts.push(times[cut] ?? Infinity);
    reached = cut;
  }
  return starts;
}

/** The place between two different times that is nearest to `wanted`, from `least` to `most`; null where there is none. */
function nearestCut(times: Float64Array, wanted: number, least: number, most: number): number | null {
  const cuts = (i: number) => i === 0 || (i < times.length && at(times, i - 1) < at(times, i));
  let down = Math.min(wanted, most);
  while (down >= least && !cuts(down)) down--;
  let up = Math.max(wanted, least);
  while (up <= most && !cuts(up)) up++;
  const downFits = down >= least && cuts(down);
  const upFits = up <= most;
  if (downFits && (!upFits || wanted - down <= up - wanted)) return down;
  return upFits ? up : null;
}
