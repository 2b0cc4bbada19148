import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { Databases } from '../database/databases.js';
import { Problem } from '../errors/problem.js';

const MINUTE = 60;

/**
 * How often something may be tried, by whom. A whole class may sit behind one address, so addresses get more than
 * accounts.
 */
const LIMITS = {
  /** Wrong passwords for one account. */
  'sign-in account': { points: 10, seconds: 15 * MINUTE },
  /** Wrong passwords from one address. */
  'sign-in address': { points: 100, seconds: 15 * MINUTE },
  /** New accounts from one address. */
  'sign-up address': { points: 1000, seconds: 60 * MINUTE },
  /** Wrong join codes by one person, and wrong one-time links from one address. */
  'join person': { points: 20, seconds: 60 * MINUTE },
  'link address': { points: 100, seconds: 60 * MINUTE },
  /** Files of one person, taken or not. */
  'upload person': { points: 120, seconds: 10 * MINUTE },
} as const;
export type LimitName = keyof typeof LIMITS;

/** Neither addresses nor names are kept, only that somebody tried. */
const keyOf = (who: string) => createHash('sha256').update(who).digest('base64url');

/** Counts attempts in the database, so that all web processes count together. */
@Injectable()
export class Limits {
  private readonly limiters = new Map<LimitName, Promise<RateLimiterPostgres>>();

  constructor(private readonly databases: Databases) {}

  /** Counts one attempt. @throws Problem 429 `too-many` past the limit, which says when to try again */
  async take(name: LimitName, who: string): Promise<void> {
    try {
      await (await this.limiter(name)).consume(keyOf(who));
    } catch (error) {
      throw tooMany(error);
    }
  }

  /** Refuses whoever is past the limit already, without counting: for what is counted only when it goes wrong. */
  async check(name: LimitName, who: string): Promise<void> {
    const state = await (await this.limiter(name)).get(keyOf(who));
    if (state && state.consumedPoints >= LIMITS[name].points) throw tooMany(state);
  }

  /** Forgets what was counted. */
  async forget(name: LimitName, who: string): Promise<void> {
    await (await this.limiter(name)).delete(keyOf(who));
  }

  private limiter(name: LimitName): Promise<RateLimiterPostgres> {
    const known = this.limiters.get(name);
    if (known) return known;
    const { points, seconds } = LIMITS[name];
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
  const wait = seconds < 2 * MINUTE ? `${seconds} seconds` : `${Math.ceil(seconds / MINUTE)} minutes`;
  return new Problem(429, 'too-many', `Too many attempts. Try again in ${wait}.`, {}, seconds);
}
