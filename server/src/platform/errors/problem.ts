import type { Place } from '@modest-sieve/core/foundation';

/** An error that a caller gets, as problem details (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    /** Stable code, the last part of the problem's type. */
    readonly code: string,
    /** One sentence for the reader. */
    readonly detail: string,
    readonly place: Place = {},
    /** Seconds after which to try again, where that helps. */
    readonly retryAfter: number | null = null,
  ) {
    super(detail);
  }
}

/** Unknown and forbidden answer alike. */
export const notFound = (): Problem => new Problem(404, 'not-found', 'There is nothing here for you.');

export const conflict = (code: string, detail: string): Problem => new Problem(409, code, detail);
