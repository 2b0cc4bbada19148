/** As much of a submission as deciding which one counts takes. */
export interface Countable {
  readonly number: number;
  /** Whether it was checked, with every file check holding. */
  readonly checked: boolean;
  /** Marks after lateness, of predictions those of the score on the feedback rows; null where they are not known. */
  readonly standing: number | null;
}

/**
 * The submission to a question that counts: of those checked the best, of equal ones the latest; or the last. Null where
 * none was checked.
 */
export function countingAnswer<T extends Countable>(
  answers: readonly T[],
  counts: 'best' | 'last',
): T | null {
  const checked = answers.filter((one) => one.checked).sort((a, b) => a.number - b.number);
  if (counts === 'last') return checked.at(-1) ?? null;
  return checked.reduce<T | null>(
    (best, one) => (best === null || (one.standing ?? 0) >= (best.standing ?? 0) ? one : best),
    null,
  );
}
