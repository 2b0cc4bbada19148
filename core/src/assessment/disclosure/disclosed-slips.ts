import type { SlipPolicy } from '../policy/feedback.js';
import { questionKindOf } from '../questions/registry.js';
import { slipOf } from '../slips/registry.js';
import type { Result } from './result.js';

/** A mistake as its student reads of it: in words, and with numbers of its own alone. */
export interface DisclosedSlip {
  readonly id: string;
  /** The figure in which it was found; null for a whole file. */
  readonly field: string | null;
  readonly says: string;
  readonly remedy: string;
  readonly example: string;
  /** Staff named it; it was not found from the answer. */
  readonly byHand?: true;
}

/**
 * The slips of an answer, without what was found. Before the return those of predictions and models are told that follow
 * from the file alone: one that follows from the held-out answers would say something of them.
 */
export function slipsFor(
  { kind, slips = [] }: Result,
  { returned, slips: policy }: { readonly returned: boolean; readonly slips: SlipPolicy },
): { readonly slips?: readonly DisclosedSlip[] } {
  if (policy === 'never' || (policy === 'after-return' && !returned)) return {};
  const isScored = questionKindOf(kind).markedBy === 'score';
  const told = slips.flatMap(({ id, field, byHand }) => {
    const { from, says, remedy, example } = slipOf(id);
    if (isScored && from === 'key' && !returned) return [];
    return [{ id, field, says, remedy, example, ...(byHand ? { byHand } : {}) }];
  });
  return told.length === 0 ? {} : { slips: told };
}
