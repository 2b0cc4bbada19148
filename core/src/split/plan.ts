import { SieveError } from '../errors.js';

export const PART_NAMES = ['training', 'validation', 'heldout'] as const;
export type PartName = (typeof PART_NAMES)[number];

/** Index of a part in `PART_NAMES`, or −1 for a row that takes no part (no label, repeated). */
export type PartCode = -1 | 0 | 1 | 2;

export const LEFT_OUT = -1;

/** How a table's rows are to be parted. Shares are whole percentages that sum to 100. */
export interface SplitPlan {
  readonly shares: Readonly<Record<PartName, number>>;
  /** Column whose values get equal shares in every part. */
  readonly stratify: string | null;
  /** Column whose values are never parted. */
  readonly group: string | null;
  readonly seed: number;
}

export const LARGEST_SEED = 2 ** 31 - 1;

/** @throws SieveError `split-plan` with the setting that is wrong */
export function checkPlan(plan: SplitPlan): void {
  const fail = (field: string, message: string) => {
    throw new SieveError('split-plan', message, { field });
  };
  const shares = PART_NAMES.map((part) => plan.shares[part]);
  if (shares.some((share) => !Number.isInteger(share) || share < 0 || share > 100)) {
    fail('shares', 'Shares are whole percentages between 0 and 100.');
  }
  const total = shares.reduce((a, b) => a + b, 0);
  if (total !== 100) fail('shares', `The shares make ${total} %, not 100 %.`);
  if (plan.shares.training === 0) fail('shares', 'Training needs a share of the rows.');
  if (plan.shares.heldout === 0)
    fail('shares', 'Nothing is held out: without held-out rows nothing can be checked.');
  if (!Number.isInteger(plan.seed) || plan.seed < 0 || plan.seed > LARGEST_SEED) {
    fail('seed', `A seed is a whole number from 0 to ${LARGEST_SEED}.`);
  }
}
