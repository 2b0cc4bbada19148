import type { Server } from 'node:http';
import { Injectable, type BeforeApplicationShutdown } from '@nestjs/common';
import { HttpAdapterHost } from '@nestjs/core';
import type { NextFunction, Request, Response } from 'express';
import { ReplaySubject } from 'rxjs';

/** How long answers that are under way may take once the process was asked to stop. */
const GRACE = 10_000;

/** That the process was asked to stop: streams end, connections are not kept, and after a while none is waited for. */
@Injectable()
export class Stopping implements BeforeApplicationShutdown {
  /** Says so once, also to later callers. */
  readonly began = new ReplaySubject<void>(1);
  private stopping = false;

  constructor(private readonly adapter: HttpAdapterHost) {}

  /** A browser would go on asking on the connection that it has, and so keep the process from ending. */
  readonly letGo = (_: Request, response: Response, next: NextFunction): void => {
    if (this.stopping) response.setHeader('connection', 'close');
    next();
  };

  beforeApplicationShutdown(): void {
    this.stopping = true;
    this.began.next();
    // A worker has no server.
    const server = (
      this.adapter.httpAdapter as typeof this.adapter.httpAdapter | undefined
    )?.getHttpServer() as Server | undefined;
    if (server) setTimeout(() => server.closeAllConnections(), GRACE).unref();
  }
}
