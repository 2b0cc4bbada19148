import type { Slip } from './slip.js';

/** A mistake in a file, found by a test of what was handed in. */
export interface FileSlip<F> extends Slip {
  /** @returns what was found, for staff; null where the mistake was not made, or cannot be shown */
  readonly test: (file: F) => string | null;
}

export const fileSlip = <F>(slip: FileSlip<F>): FileSlip<F> => slip;
