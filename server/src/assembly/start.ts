import 'reflect-metadata';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { INestApplicationContext } from '@nestjs/common';
import cookieParser from 'cookie-parser';
import type { NextFunction, Request, Response } from 'express';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';
import { Runner } from '../platform/jobs/runner.service.js';
import { readConfig } from '../platform/config/config.js';
import { log, NestLog } from '../platform/operation/log.js';
import { Operation } from '../platform/operation/operation.server.js';
import { Stopping } from '../platform/events/stopping.js';
import { observeRequests } from '../platform/operation/requests.js';
import { WebModule } from './web.module.js';
import { WorkerModule } from './worker.module.js';

/** In seconds. */
const YEAR = 365 * 24 * 3600;

const PAGES = fileURLToPath(new URL('../../../web/dist', import.meta.url));

/** Everything about the application but its port: also what tests start. */
export async function makeWeb(): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(WebModule, {
    logger: new NestLog(),
    abortOnError: false,
  });
  app.set('trust proxy', readConfig().trustedProxies);
  app.use(observeRequests);
  app.use(app.get(Stopping).letGo);
  app.setGlobalPrefix('api/v1');
  app.use(
    helmet({
      // The style library writes style elements; scripts come from this server alone. Submitted models are tried in
      // the browser by a WebAssembly module, which comes from this server too.
      contentSecurityPolicy: {
        directives: {
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: readConfig().secureCookies
        ? { maxAge: YEAR, includeSubDomains: false }
        : false,
    }),
  );
  // Everything that the API answers is somebody's own.
  app.use('/api/', (_: Request, response: Response, next: NextFunction) => {
    response.setHeader('cache-control', 'no-store');
    next();
  });
  app.use(cookieParser());
  // The reference of the API is a page beside the guides.
  app.use('/api/docs', (_: Request, response: Response) => {
    response.redirect('/help/api');
  });
  if (existsSync(PAGES)) servePages(app);
  app.enableShutdownHooks();
  return app;
}

/** The built pages; an address that is no file is a page of the application, which shows what is there. */
function servePages(app: NestExpressApplication): void {
  // Files were compressed when they were built. Answers of the API are never compressed: the length would reveal what they hold.
  const compressed = { enableBrotli: true, orderPreference: ['br', 'gzip'], index: false };
  // The names of these files follow from their contents.
  app.use(
    '/assets',
    expressStaticGzip(join(PAGES, 'assets'), {
      ...compressed,
      serveStatic: { maxAge: '1y', immutable: true },
    }),
  );
  app.use(expressStaticGzip(PAGES, { ...compressed, serveStatic: { maxAge: '1h' } }));
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET' || request.path.startsWith('/api/')) next();
    else response.sendFile('index.html', { root: PAGES, headers: { 'cache-control': 'no-cache' } });
  });
}

export async function startWeb(): Promise<INestApplicationContext> {
  const { host, port } = readConfig();
  const app = await makeWeb();
  await app.listen(port, host);
  await app.get(Operation).listen('web');
  log.info({ host, port }, 'the web process answers');
  return app;
}

export async function startWorker(): Promise<INestApplicationContext> {
  const app = await NestFactory.createApplicationContext(WorkerModule, {
    logger: new NestLog(),
    abortOnError: false,
  });
  app.enableShutdownHooks();
  await app.get(Runner).start();
  await app.get(Operation).listen('worker');
  log.info('the worker process takes jobs');
  return app;
}
