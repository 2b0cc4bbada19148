import type { ReceiptOutcome } from '../api/api.js';

export interface Countable {
  readonly id: string;
  readonly number: number;
  readonly outcome: ReceiptOutcome;
  readonly marks: number | null;
}

/**
 * The submission of a student that counts: of those checked, the one with most marks (the earliest of equals), or
 * the last. Null where none was checked.
 */
export function countingSubmission<T extends Countable>(
  submissions: readonly T[],
  counts: 'best' | 'last',
): T | null {
  const checked = submissions.filter((s) => s.outcome === 'checked').sort((a, b) => a.number - b.number);
  if (counts === 'last') return checked.at(-1) ?? null;
  return checked.reduce<T | null>(
    (best, s) => (best === null || (s.marks ?? 0) > (best.marks ?? 0) ? s : best),
    null,
  );
}
