export const PART_NAMES = ['training', 'validation', 'heldout'] as const;
export type PartName = (typeof PART_NAMES)[number];

/** A row that takes no part: no label, repeated, in a gap. */
export const LEFT_OUT = -1;
