const HOUR = 3600 * 1000;
const DAY = 24 * HOUR;
/** Hours or days that a plot has at most. */
const MOST = 60;

/** Answers that came within one hour, one day or one week. */
export interface Arrived {
  /** When the time begins, in milliseconds. */
  readonly from: number;
  readonly answers: number;
}

/**
 * Answers over time, by the hour, the day or so many days as fit, with the times in which none came.
 *
 * @param times when answers came, in milliseconds, in any order
 */
export function arrivals(times: readonly number[]): {
  readonly step: number;
  readonly bins: readonly Arrived[];
} {
  if (times.length === 0) return { step: HOUR, bins: [] };
  const [first, last] = [Math.min(...times), Math.max(...times)];
  let step = HOUR;
  if (last - first > MOST * HOUR) step = DAY * Math.max(1, Math.ceil((last - first) / (MOST * DAY)));
  const begin = Math.floor(first / step);
  const counts = new Array<number>(Math.floor(last / step) - begin + 1).fill(0);
  for (const time of times) {
    const bin = Math.floor(time / step) - begin;
    counts[bin] = (counts[bin] ?? 0) + 1;
  }
  return { step, bins: counts.map((answers, i) => ({ from: (begin + i) * step, answers })) };
}
