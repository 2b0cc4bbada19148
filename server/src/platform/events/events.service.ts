import { Inject, Injectable, Logger, type MessageEvent, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import {
  concatMap,
  filter,
  firstValueFrom,
  from,
  interval,
  map,
  merge,
  Subject,
  takeUntil,
  takeWhile,
  timer,
  type Observable,
} from 'rxjs';
import type { ChangeEvent } from '../../api/api.js';
import { isStaff, type Caller } from '../access/access.js';
import { Stopping } from './stopping.js';
import { CONFIG } from '../config/config.module.js';
import { databaseUrl, type Config } from '../config/config.js';
import { CHANNEL, type Change, type SessionsEnded } from './announce.js';

const HEARTBEAT = 20_000;
const RETRY = 1000;

/** Hears what the database announces and passes it on to the browsers that may know. */
@Injectable()
export class Events implements OnApplicationShutdown {
  private readonly log = new Logger('Events');
  private readonly changes = new Subject<Change>();
  private readonly ended = new Subject<SessionsEnded>();
  private client: pg.Client | null = null;
  private listening = false;
  /** Settled once the first notification could be heard. */
  private readonly heard: Promise<void>;
  private readonly hear: () => void;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly stopping: Stopping,
  ) {
    let hear: () => void = () => undefined;
    this.heard = new Promise((resolve) => (hear = resolve));
    this.hear = hear;
  }

  /**
   * A stream for the caller's browser: one event for each change that they may know of, and a heartbeat. It ends with
   * the session: before each event, and when the person's sessions or rights change, it is asked whether the caller
   * still may listen.
   */
  of(caller: Caller, stillMay: () => Promise<boolean>): Observable<MessageEvent> {
    const heard = this.heardBy(caller).pipe(
      map(({ about }): MessageEvent => ({ type: 'change', data: { about } satisfies ChangeEvent })),
    );
    const alive = interval(HEARTBEAT).pipe(map((): MessageEvent => ({ type: 'alive', data: {} })));
    const doubted = this.ended.pipe(
      filter(({ personId }) => personId === caller.person.id),
      map((): MessageEvent => ({ type: 'alive', data: {} })),
    );
    // What ended before this process listened is found out once it does.
    const begun = from(this.heard).pipe(map((): MessageEvent => ({ type: 'alive', data: {} })));
    return merge(heard, alive, doubted, begun).pipe(
      concatMap(async (event) => ((await stillMay()) ? event : null)),
      takeWhile((event) => event !== null),
      takeUntil(this.stopping.began),
    );
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
    client.on('notification', ({ payload }) => {
      const change = JSON.parse(payload ?? '{}') as Change | SessionsEnded;
      if ('personId' in change) this.ended.next(change);
      else this.changes.next(change);
    });
    client.on('error', (error) => this.log.warn(`lost the database: ${error.message}`));
    client.on('end', () => {
      if (this.client === client) setTimeout(() => void this.listen(), RETRY);
    });
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANNEL}`);
      this.hear();
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
