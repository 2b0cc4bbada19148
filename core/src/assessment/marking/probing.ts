import { at } from '../../foundation/numbers.js';
import type { FeedbackPolicy } from '../policy/feedback.js';

const ROWS = [50, 100, 200, 500, 1000, 2000] as const;
const FILES = [20, 100, 240, 500, 1000] as const;

/**
 * The share of feedback rows that the best of ten attacks gets right by students who know nothing of them, of two
 * classes alike in number, so that guessing reaches 0.5: a line for each of ROWS, a figure for each of FILES, of which
 * each student sends twenty. Means over 3 to 40 simulated classes, with standard errors of up to 0.015. Made by
 * core/test/probing.ts, and tested there.
 */
const REACHED: Record<Exclude<FeedbackPolicy, 'after-return'>, readonly (readonly number[])[]> = {
  'only-when-better': [
    [0.54, 0.58, 0.6, 0.64, 0.69],
    [0.53, 0.56, 0.59, 0.64, 0.67],
    [0.52, 0.56, 0.6, 0.62, 0.65],
    [0.52, 0.55, 0.57, 0.61, 0.64],
    [0.51, 0.54, 0.56, 0.59, 0.61],
    [0.51, 0.53, 0.54, 0.57, 0.6],
  ],
  rounded: [
    [0.74, 0.93, 0.98, 1, 1],
    [0.67, 0.83, 0.93, 0.98, 1],
    [0.61, 0.74, 0.84, 0.94, 0.99],
    [0.58, 0.67, 0.75, 0.85, 0.91],
    [0.56, 0.63, 0.69, 0.76, 0.83],
    [0.54, 0.58, 0.63, 0.69, 0.75],
  ],
  everything: [
    [0.74, 0.94, 1, 1, 1],
    [0.68, 0.84, 0.96, 0.99, 1],
    [0.62, 0.76, 0.87, 0.96, 1],
    [0.58, 0.67, 0.75, 0.85, 0.93],
    [0.56, 0.63, 0.69, 0.76, 0.84],
    [0.54, 0.59, 0.63, 0.69, 0.76],
  ],
};

/** The largest gain over guessing for which attempts are proposed. */
const SMALL_GAIN = 0.1;

/**
 * What probing can reach where guessing reaches 0.5, from the table's next smaller number of rows and next larger number
 * of files; null beyond the table, or where no score is shown.
 *
 * @param rows feedback rows
 * @param files that all who share what they are shown send together
 */
export function probingReaches(policy: FeedbackPolicy, rows: number, files: number): number | null {
  if (policy === 'after-return') return null;
  const line = ROWS.findLastIndex((of) => of <= rows);
  const column = FILES.findIndex((of) => of >= files);
  return line < 0 || column < 0 ? null : at(at(REACHED[policy], line), column);
}

/** Attempts for each student, of so many who may share, with which probing gains little; at most 20, at least 1. */
export function proposedAttempts(policy: FeedbackPolicy, rows: number, students: number): number {
  for (let attempts = 20; attempts > 1; attempts--) {
    const reached = probingReaches(policy, rows, attempts * students);
    if (reached !== null && reached - 0.5 <= SMALL_GAIN + 1e-9) return attempts;
  }
  return 1;
}
