import { randomUUID } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';
import { log } from './log.js';
import { requestSeconds } from '../metrics/metrics.js';

const ID = /^[\w.-]{1,64}$/;

/**
 * Gives each request an identifier, which its answer carries as `X-Request-Id`, and logs and counts it when it is
 * answered: by the pattern of its route, so that addresses name nobody.
 */
export function observeRequests(request: Request, response: Response, next: NextFunction): void {
  const given = request.headers['x-request-id'];
  const id = typeof given === 'string' && ID.test(given) ? given : randomUUID();
  response.setHeader('x-request-id', id);
  const start = performance.now();
  response.once('close', () => {
    const seconds = (performance.now() - start) / 1000;
    const labels = {
      method: request.method,
      route: routeOf(request),
      status: String(response.statusCode),
    };
    requestSeconds.observe(labels, seconds);
    log.info({ request: id, ...labels, ms: Math.round(seconds * 1000) }, 'request');
  });
  next();
}

function routeOf(request: Request): string {
  const route = request.route as { path?: unknown } | undefined;
  if (typeof route?.path === 'string') return route.path;
  return request.path.startsWith('/api/') ? 'unknown' : 'page';
}
