import { SieveError } from '@modest-sieve/core/foundation';
import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Response } from 'express';
import { databaseFault, isDataError } from './database-fault.js';
import { Problem } from './problem.js';

/** Turns every error into problem details. What was not foreseen is logged and answered in general words. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) {
      response.end();
      return;
    }
    const { status, code, detail, place, retryAfter } = this.problemOf(error);
    if (retryAfter !== null) response.setHeader('retry-after', retryAfter);
    response
      .status(status)
      .type('application/problem+json')
      .send({
        type: `urn:modest-sieve:problem:${code}`,
        title: detail,
        status,
        code,
        place,
        request: response.getHeader('x-request-id') ?? null,
      });
  }

  private problemOf(error: unknown): Problem {
    if (error instanceof Problem) return error;
    if (error instanceof SieveError) return new Problem(422, error.code, error.message, error.place);
    if (error instanceof HttpException) return fromHttp(error);
    if (isDataError(error)) {
      this.log.warn(`the database refused a value: ${String(error)}`);
      return new Problem(400, 'invalid', 'The request holds a value that cannot be stored.');
    }
    const fault = databaseFault(error);
    if (fault) {
      this.log.warn(`the database: ${String(error)}`);
      return fault;
    }
    this.log.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    return new Problem(
      500,
      'unforeseen',
      'Something went wrong on the server. Nothing was changed; try again.',
    );
  }
}

/** Nest's own exceptions: validation messages as one sentence, sizes in words, every other by its status. */
function fromHttp(error: HttpException): Problem {
  const status = error.getStatus();
  if (status === 404) return new Problem(404, 'not-found', 'There is nothing here for you.');
  if (status === 413) return new Problem(413, 'too-large', 'The file is larger than the limit.');
  const body = error.getResponse();
  const messages: unknown = typeof body === 'object' && 'message' in body ? body.message : error.message;
  const detail = Array.isArray(messages) ? messages.join('; ') : String(messages);
  return new Problem(status, status === 400 ? 'invalid' : 'refused', detail);
}
