import type { FoundSlip } from '../slips/contract/slip.js';
import type { Result } from './result.js';

/** What staff said of a mistake in an answer. */
export interface SlipVerdict {
  /** Id of the slip. */
  readonly slip: string;
  /** The figure that it is about; null for the whole answer. */
  readonly field: string | null;
  /** Dismissed: it was found, and is not there. Named: it was not found, and is there. */
  readonly verdict: 'dismissed' | 'named';
}

/** Whether a verdict is about a mistake that was found. */
export const isVerdictOn =
  ({ id, field }: Pick<FoundSlip, 'id' | 'field'>) =>
  (verdict: Pick<SlipVerdict, 'slip' | 'field'>): boolean =>
    verdict.slip === id && verdict.field === field;

/**
 * A result with the mistakes that hold: those that were found and that nobody dismissed, then those that staff named.
 *
 * @param question id of the question that was answered
 */
export function withVerdicts(result: Result, question: string, verdicts: readonly SlipVerdict[]): Result {
  if (verdicts.length === 0) return result;
  const { slips: found = [] } = result;
  const dismissed = verdicts.filter(({ verdict }) => verdict === 'dismissed');
  const named = verdicts.filter(
    (one) => one.verdict === 'named' && !found.some(({ id, field }) => isVerdictOn({ id, field })(one)),
  );
  return {
    ...result,
    slips: [
      ...found.filter((slip) => !dismissed.some(isVerdictOn(slip))),
      ...named.map(({ slip, field }) => ({
        id: slip,
        question,
        field,
        evidence: 'named by staff',
        byHand: true as const,
      })),
    ],
  };
}
