export const PART_NAMES = ['training', 'validation', 'heldout'] as const;
export type PartName = (typeof PART_NAMES)[number];

/** Index of a part in `PART_NAMES`, or −1 for a row that takes no part (no label, repeated, in a gap). */
export type PartCode = -1 | 0 | 1 | 2;

export const LEFT_OUT = -1;

export const LARGEST_SEED = 2 ** 31 - 1;
