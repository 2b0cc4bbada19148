import { Inject, Injectable, Logger, type MessageEvent, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import { filter, interval, map, merge, Subject, takeUntil, type Observable } from 'rxjs';
import type { Caller } from '../access/access.js';
import { CONFIG } from '../config/config.module.js';
import { databaseUrl, type Config } from '../config/config.js';
import { CHANNEL, type Change } from './announce.js';

const HEARTBEAT = 20_000;
const RETRY = 1000;

/** Hears what the database announces and passes it on to the browsers that may know. */
@Injectable()
export class Events implements OnApplicationShutdown {
  private readonly log = new Logger('Events');
  private readonly changes = new Subject<Change>();
  private readonly closed = new Subject<void>();
  private client: pg.Client | null = null;
  private listening = false;

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  of(caller: Caller): Observable<MessageEvent> {
    if (!this.listening) {
      this.listening = true;
      void this.listen();
    }
    const heard = this.changes.pipe(
      filter((change) => change.courseId === caller.courseId),
      filter(
        (change) => caller.role === 'instructor' || change.to === 'all' || change.to === caller.person.id,
      ),
      map((): MessageEvent => ({ type: 'change', data: {} })),
    );
    const alive = interval(HEARTBEAT).pipe(map((): MessageEvent => ({ type: 'alive', data: {} })));
    return merge(heard, alive).pipe(takeUntil(this.closed));
  }

  /** Listens until the connection is lost, then again: a lost change shows at the next one. */
  private async listen(): Promise<void> {
    const client = new pg.Client({ connectionString: databaseUrl(this.config, 'identity') });
    this.client = client;
    client.on('notification', ({ payload }) => this.changes.next(JSON.parse(payload ?? '{}') as Change));
    client.on('error', (error) => this.log.warn(`lost the database: ${error.message}`));
    client.on('end', () => {
      if (this.client === client) setTimeout(() => void this.listen(), RETRY);
    });
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANNEL}`);
    } catch (error) {
      this.log.warn(`cannot listen: ${String(error)}`);
      await client.end().catch(() => undefined);
    }
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed.next();
    const { client } = this;
    this.client = null;
    await client?.end().catch(() => undefined);
  }
}
