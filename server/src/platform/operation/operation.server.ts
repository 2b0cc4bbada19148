import { createServer, type Server } from 'node:http';
import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { CONFIG } from '../config/config.module.js';
import type { Config } from '../config/config.js';
import { Databases } from '../database/databases.js';
import { JOB_KINDS, type JobKind } from '../jobs/job-kind.js';
import { jobsWaiting, registry } from '../metrics/metrics.js';

/**
 * What watches the program asks on a port of its own, on loopback: `/health` whether the process lives, `/ready` whether
 * it can work (the database answers), `/metrics` for figures.
 */
@Injectable()
export class Operation implements OnApplicationShutdown {
  private server: Server | null = null;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly databases: Databases,
    @Inject(JOB_KINDS) private readonly kinds: readonly JobKind[],
  ) {}

  /** Listens, once, unless the configuration names no port. @returns the port */
  async listen(role: 'web' | 'worker'): Promise<number | null> {
    const { operationPort } = this.config;
    if (operationPort === null || this.server) return portOf(this.server);
    const server = createServer((request, response) => {
      void this.answer(request.url ?? '', role).then(({ status, type, text }) => {
        response.writeHead(status, { 'content-type': type, 'cache-control': 'no-store' }).end(text);
      });
    });
    this.server = server;
    // The worker of the role “all” takes the port after the web process's.
    const port =
      operationPort === 0 ? 0 : operationPort + (role === 'worker' && this.config.besideWeb ? 1 : 0);
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject).listen(port, '127.0.0.1', resolve);
    });
    return portOf(server);
  }

  private async answer(url: string, role: 'web' | 'worker') {
    const plain = (status: number, text: string) => ({
      status,
      type: 'text/plain; charset=utf-8',
      text: `${text}\n`,
    });
    switch (url) {
      case '/health':
        return plain(200, 'alive');
      case '/ready':
        return (await this.ready(role)) ? plain(200, 'ready') : plain(503, 'the database does not answer');
      case '/metrics':
        if (role === 'worker') await this.countWaiting();
        return { status: 200, type: registry.contentType, text: await registry.metrics() };
      default:
        return plain(404, 'there are /health, /ready and /metrics');
    }
  }

  private async ready(role: 'web' | 'worker'): Promise<boolean> {
    try {
      const db = await this.databases.of(role === 'web' ? 'identity' : 'worker');
      await db.query('SELECT 1');
      return true;
    } catch {
      return false;
    }
  }

  private async countWaiting(): Promise<void> {
    try {
      const db = await this.databases.of('worker');
      const rows: { kind: string; n: number }[] = await db.query(
        `SELECT name AS kind, count(*)::int AS n FROM pgboss.job WHERE state IN ('created', 'retry') GROUP BY name`,
      );
      for (const { name: kind } of this.kinds)
        jobsWaiting.set({ kind }, rows.find((row) => row.kind === kind)?.n ?? 0);
    } catch {
      // The figures are those of before; that the database is away is what /ready says.
    }
  }

  onApplicationShutdown(): void {
    this.server?.close();
  }
}

function portOf(server: Server | null): number | null {
  const address = server?.address() ?? null;
  return typeof address === 'object' && address ? address.port : null;
}
