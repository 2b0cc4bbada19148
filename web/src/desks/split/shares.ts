import type { PartName, SplitPlan } from '@modest-sieve/core';

/** One share changed: held-out rows make up for training, training for the others, so that they stay 100 %. */
export function withShare(shares: SplitPlan['shares'], part: PartName, value: number): SplitPlan['shares'] {
  const next = { ...shares, [part]: value };
  const balance: PartName = part === 'training' ? 'heldout' : 'training';
  const rest = 100 - next.training - next.validation - next.heldout;
  return { ...next, [balance]: next[balance] + rest };
}
