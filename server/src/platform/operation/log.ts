import type { LoggerService } from '@nestjs/common';
import { pino, type Logger } from 'pino';

/**
 * Lines of JSON on standard output. They name requests, routes, jobs and faults; never a person, an address on the
 * network, a file's contents or an answer.
 */
export const log: Logger = pino({
  level: process.env.SIEVE_LOG_LEVEL ?? 'info',
  base: { process: process.env.SIEVE_ROLE ?? 'all' },
  timestamp: pino.stdTimeFunctions.isoTime,
});

/** What Nest and the services log goes the same way. */
export class NestLog implements LoggerService {
  log(message: unknown, context?: string): void {
    log.debug({ context }, String(message));
  }

  warn(message: unknown, context?: string): void {
    log.warn({ context }, String(message));
  }

  error(message: unknown, ...rest: string[]): void {
    const context = rest.at(-1);
    const stack = rest.length > 1 ? rest[0] : undefined;
    log.error(
      { context, stack },
      message instanceof Error ? (message.stack ?? message.message) : String(message),
    );
  }
}
