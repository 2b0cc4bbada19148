import { Problem } from './problem.js';

/** Classes of SQLSTATE (PostgreSQL, appendix A) and codes of Node's network for a database that is not there. */
const AWAY = /^(08...|57P0[1-3]|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/;
const AWAY_WORDS =
  /connection terminated|cannot connect|client has encountered a connection error|driver not connected/i;
/** Insufficient resources: disk full, out of memory, too many connections, a limit of the configuration. */
const FULL = /^53[1-4]00$/;

/** The problem that a caller gets when the database is away or full; null for any other error. */
export function databaseFault(error: unknown): Problem | null {
  const code = codeOf(error);
  if (FULL.test(code)) {
    return new Problem(
      507,
      'no-room',
      'The server has no room for this. Nothing was stored; report it to the person who runs it.',
    );
  }
  if (AWAY.test(code) || (error instanceof Error && AWAY_WORDS.test(error.message))) {
    return new Problem(
      503,
      'database-away',
      'The database does not answer. Nothing was changed; try again in a moment.',
      {},
      5,
    );
  }
  return null;
}

/** The code of an error, of what it wraps, or of the first of several attempts to connect. */
function codeOf(error: unknown): string {
  if (typeof error !== 'object' || error === null) return '';
  if ('code' in error && typeof error.code === 'string') return error.code;
  if ('driverError' in error) return codeOf(error.driverError);
  if (error instanceof AggregateError) return codeOf(error.errors[0]);
  return '';
}

/** Whether the database refused a value of the caller's: out of range, no text of its encoding, none of its type. */
export const isDataError = (error: unknown): boolean => /^22/.test(codeOf(error));
