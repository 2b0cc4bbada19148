import { shortNumber } from '@modest-sieve/core/foundation';

/** Students whose marks are in one range. */
export interface MarksBin {
  readonly text: string;
  readonly students: number;
}

const MOST_BINS = 10;

/** Marks in equal ranges of whole marks, at most ten of them; all marks are in the last one. */
export function binned(marks: readonly number[], outOf: number): readonly MarksBin[] {
  const width = Math.max(1, Math.ceil(outOf / MOST_BINS));
  const count = Math.max(1, Math.ceil(outOf / width));
  const students = new Array<number>(count).fill(0);
  for (const one of marks) {
    const bin = Math.min(count - 1, Math.floor(one / width));
    students[bin] = (students[bin] ?? 0) + 1;
  }
  return students.map((n, i) => {
    const [from, to] = [i * width, Math.min(outOf, (i + 1) * width)];
    return { text: `${shortNumber(from, 4)}–${shortNumber(to, 4)}`, students: n };
  });
}
