import { createHash } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import { Injectable } from '@nestjs/common';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { Databases } from '../database/databases.js';
import { Problem } from '../errors/problem.js';

const MINUTE = 60;
const DAY = 24 * 60 * MINUTE;

/** How often something may be tried within a time. A whole class may sit behind one address. */
const LIMITS = {
  /** New accounts from one address. */
  'sign-up address': { points: 1000, seconds: 60 * MINUTE },
  /** Wrong join codes by one person, and wrong one-time links from one address. */
  'join person': { points: 20, seconds: 60 * MINUTE },
  'link address': { points: 100, seconds: 60 * MINUTE },
  /** Files of one person, taken or not. */
  'upload person': { points: 120, seconds: 10 * MINUTE },
} as const;
export type LimitName = keyof typeof LIMITS;

/**
 * Limits that grow with what failed within a day: the first failures are free, then one attempt is taken in 2, 4, 8 …
 * seconds, up to the longest wait. Where `slows` is set nobody is refused: an attempt takes the time that it would have
 * had to wait, up to the longest.
 */
const BACK_OFFS = {
  /** Wrong passwords for one account from one address. */
  'sign-in': { free: 8, longest: 60, slows: false },
  /** Wrong passwords for one account from anywhere: strangers must not lock anybody out. */
  'sign-in account': { free: 50, longest: 3, slows: true },
  /** Wrong passwords from one address, behind which a campus may sit. */
  'sign-in address': { free: 100, longest: 2, slows: true },
  /** Wrong passwords in a browser that the person has signed in with before. */
  'sign-in device': { free: 20, longest: 60, slows: false },
} as const;
export type BackOffName = keyof typeof BACK_OFFS;

/** Neither addresses nor names are kept, only that somebody tried. */
const keyOf = (who: string) => createHash('sha256').update(who).digest('base64url');

/** Counts attempts in the database, so that all web processes count together. */
@Injectable()
export class Limits {
  private readonly limiters = new Map<string, Promise<RateLimiterPostgres>>();

  constructor(private readonly databases: Databases) {}

  /** Counts one attempt. @throws Problem 429 `too-many` past the limit, which says when to try again */
  async take(name: LimitName, who: string): Promise<void> {
    try {
      await (await this.limiter(name, LIMITS[name])).consume(keyOf(who));
    } catch (error) {
      throw tooMany(error);
    }
  }

  /** Refuses anybody who is past the limit already, without counting: for what is counted only when it goes wrong. */
  async check(name: LimitName, who: string): Promise<void> {
    const state = await (await this.limiter(name, LIMITS[name])).get(keyOf(who));
    if (state && state.consumedPoints >= LIMITS[name].points) throw tooMany(state);
  }

  /**
   * Counts an attempt as failed before it is made.
   *
   * @returns what gives it back when it was right
   * @throws Problem 429 `too-many` with the time to wait
   */
  async begin(
    attempts: readonly { readonly name: BackOffName; readonly who: string }[],
  ): Promise<{ giveBack: () => Promise<void> }> {
    let slowed = 0;
    for (const { name, who } of attempts) {
      const { free, longest, slows } = BACK_OFFS[name];
      const failures = await this.failures(name);
      const { consumedPoints } = await failures.consume(keyOf(who));
      const seconds = consumedPoints > free ? Math.min(longest, 2 ** (consumedPoints - free)) : 0;
      if (seconds === 0) continue;
      if (slows) slowed = Math.max(slowed, seconds);
      else await this.gate(name, who, seconds);
    }
    if (slowed > 0) await wait(slowed * 1000);
    const giveBack = async () => {
      for (const { name, who } of attempts) {
        // The person's own failures are forgiven; those of others at the account or address still count.
        if (BACK_OFFS[name].slows) await (await this.failures(name)).reward(keyOf(who));
        else await (await this.failures(name)).delete(keyOf(who));
      }
    };
    return { giveBack };
  }

  /** Lets one attempt through in so many seconds. */
  private async gate(name: BackOffName, who: string, seconds: number): Promise<void> {
    const gate = await this.limiter(`${name} gate`, { points: 1, seconds: MINUTE });
    try {
      await gate.consume(keyOf(who), 1, { customDuration: Math.ceil(seconds) });
    } catch (error) {
      throw tooMany(error);
    }
  }

  private readonly failures = (name: BackOffName): Promise<RateLimiterPostgres> =>
    this.limiter(`${name} failures`, { points: 1_000_000, seconds: DAY });

  private limiter(
    name: string,
    { points, seconds }: { readonly points: number; readonly seconds: number },
  ): Promise<RateLimiterPostgres> {
    const known = this.limiters.get(name);
    if (known) return known;
    const made = this.databases.of('identity').then(
      ({ dataSource }) =>
        new RateLimiterPostgres({
          storeClient: dataSource,
          storeType: 'typeorm',
          schemaName: 'identity',
          tableName: 'rate_limit',
          tableCreated: true,
          clearExpiredByTimeout: true,
          keyPrefix: name,
          points,
          duration: seconds,
        }),
    );
    this.limiters.set(name, made);
    return made;
  }
}

function tooMany(error: unknown): unknown {
  if (!(error instanceof RateLimiterRes)) return error;
  const seconds = Math.max(1, Math.ceil(error.msBeforeNext / 1000));
  const wait =
    seconds < 2 * MINUTE
      ? `${seconds} ${seconds === 1 ? 'second' : 'seconds'}`
      : `${Math.ceil(seconds / MINUTE)} minutes`;
  return new Problem(429, 'too-many', `Too many attempts. Try again in ${wait}.`, {}, seconds);
}
