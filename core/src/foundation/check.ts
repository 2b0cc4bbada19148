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

/** Characters of a text that a check quotes or says: whatever is in a file, a receipt stays small. */
export const LONGEST_TEXT = 200;

/** A text that is not longer than any that a check has. */
export const cut = (text: string): string =>
  text.length <= LONGEST_TEXT ? text : `${text.slice(0, LONGEST_TEXT - 1)}…`;

export function check(
  id: string,
  outcome: Outcome,
  message: string,
  more: { measured?: string; expected?: string; examples?: readonly Example[] } = {},
): Check {
  return {
    id,
    outcome,
    message: cut(message),
    measured: more.measured === undefined ? null : cut(more.measured),
    expected: more.expected === undefined ? null : cut(more.expected),
    examples: (more.examples ?? [])
      .slice(0, MOST_EXAMPLES)
      .map((example) => ({ ...example, text: cut(example.text) })),
  };
}

/** Whether nothing fails: every check holds or could not be judged. */
export const allHold = (checks: readonly Check[]): boolean => checks.every((c) => c.outcome !== 'fails');

/** Ids of the checks that fail. */
export const failing = (checks: readonly Check[]): string[] =>
  checks.flatMap(({ id, outcome }) => (outcome === 'fails' ? [id] : []));
