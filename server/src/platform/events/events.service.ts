import { Inject, Injectable, Logger, type MessageEvent, type OnApplicationShutdown } from '@nestjs/common';
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
import { Listener } from '../database/listener.js';
import { CHANNEL, type Change, type SessionsEnded } from './announce.js';

const HEARTBEAT = 20_000;

/** Hears what the database announces and passes it on to the browsers that may know. */
@Injectable()
export class Events implements OnApplicationShutdown {
  private readonly log = new Logger('Events');
  private readonly changes = new Subject<Change>();
  private readonly ended = new Subject<SessionsEnded>();
  private listener: Listener | null = null;
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
    this.listener ??= this.listen();
    return this.changes.pipe(
      filter((change) => change.courseId === caller.courseId),
      filter((change) => isStaff(caller.role) || change.to === 'all' || change.to === caller.person.id),
    );
  }

  /** A change that is lost with the connection shows at the next one. */
  private listen(): Listener {
    return new Listener({
      url: databaseUrl(this.config, 'identity'),
      channel: CHANNEL,
      log: this.log,
      begun: this.hear,
      hear: (payload) => {
        const change = JSON.parse(payload) as Change | SessionsEnded;
        if ('personId' in change) this.ended.next(change);
        else this.changes.next(change);
      },
    });
  }

  async onApplicationShutdown(): Promise<void> {
    await this.listener?.close();
  }
}
