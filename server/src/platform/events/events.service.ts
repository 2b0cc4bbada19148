import { Inject, Injectable, Logger, type MessageEvent, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import {
  filter,
  firstValueFrom,
  interval,
  map,
  merge,
  Subject,
  takeUntil,
  timer,
  type Observable,
} from 'rxjs';
import { isStaff, type Caller } from '../access/access.js';
import { Stopping } from '../operation/stopping.js';
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
  private client: pg.Client | null = null;
  private listening = false;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly stopping: Stopping,
  ) {}

  /** A stream for the caller's browser: one event for each change that they may know of, and a heartbeat. */
  of(caller: Caller): Observable<MessageEvent> {
    const heard = this.heardBy(caller).pipe(map((): MessageEvent => ({ type: 'change', data: {} })));
    const alive = interval(HEARTBEAT).pipe(map((): MessageEvent => ({ type: 'alive', data: {} })));
    return merge(heard, alive).pipe(takeUntil(this.stopping.began));
  }

  /** Waits for the next change that the caller may know of, at most so long: a change may be missed. */
  async next(caller: Caller, milliseconds: number): Promise<void> {
    await firstValueFrom(merge(this.heardBy(caller), timer(milliseconds)));
  }

  private heardBy(caller: Caller): Observable<Change> {
    if (!this.listening) {
      this.listening = true;
      void this.listen();
    }
    return this.changes.pipe(
      filter((change) => change.courseId === caller.courseId),
      filter((change) => isStaff(caller.role) || change.to === 'all' || change.to === caller.person.id),
    );
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
    const { client } = this;
    this.client = null;
    await client?.end().catch(() => undefined);
  }
}
