export type Outcome = 'holds' | 'fails' | 'unsure';

/** An offending place, said in a few words; lines and columns of a file count from 1. */
export interface Example {
  readonly line: number | null;
  readonly column: number | null;
  readonly text: string;
}

/** What was looked at, what was found, and what should have been: the same shape for every check of the product. */
export interface Check {
  /** Stable name of the check. */
  readonly id: string;
  readonly outcome: Outcome;
  /** One sentence. */
  readonly message: string;
  readonly measured: string | null;
  readonly expected: string | null;
  /** At most `MOST_EXAMPLES`. */
  readonly examples: readonly Example[];
}

export const MOST_EXAMPLES = 5;

export function check(
  id: string,
  outcome: Outcome,
  message: string,
  more: { measured?: string; expected?: string; examples?: readonly Example[] } = {},
): Check {
  return {
    id,
    outcome,
    message,
    measured: more.measured ?? null,
    expected: more.expected ?? null,
    examples: (more.examples ?? []).slice(0, MOST_EXAMPLES),
  };
}

/** Whether nothing stands against: every check holds or could not be judged. */
export const allHold = (checks: readonly Check[]): boolean => checks.every((c) => c.outcome !== 'fails');
