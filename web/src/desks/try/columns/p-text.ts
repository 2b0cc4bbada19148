import { shortNumber } from '@modest-sieve/core/foundation';

/** A chance as it is shown: below one in a million it is not told apart. */
export const pText = (p: number | null): string =>
  p === null ? '–' : p < 1e-6 ? '< 0.000001' : shortNumber(p, 2);
