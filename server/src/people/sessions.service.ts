import { Inject, Injectable } from '@nestjs/common';
import type { Request, Response } from 'express';
import { MoreThan } from 'typeorm';
import type { TokenScope } from '../api/api.js';
import type { Person } from '../platform/access/access.js';
import { CONFIG } from '../platform/config/config.module.js';
import type { Config } from '../platform/config/config.js';
import { Databases } from '../platform/database/databases.js';
import { PersonRecord, SessionRecord } from './person.entity.js';
import { hashOf, newSecret } from './secrets.js';
import { Tokens } from './tokens.service.js';

const COOKIE = 'sieve_session';
const LIFETIME = 14 * 24 * 3600 * 1000;

/** Who sends a request, and what their token allows; null for a session, which allows all that the person may do. */
export interface Identity {
  readonly person: Person;
  readonly scopes: readonly TokenScope[] | null;
}

/** Sessions, kept in the database under the hash of their secret. */
@Injectable()
export class Sessions {
  constructor(
    private readonly databases: Databases,
    private readonly tokens: Tokens,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async open(person: Person, response: Response): Promise<void> {
    const secret = newSecret();
    const db = await this.databases.of('identity');
    const expiresAt = new Date(Date.now() + LIFETIME);
    await db.insert(SessionRecord, { tokenHash: hashOf(secret), personId: person.id, expiresAt });
    response.cookie(COOKIE, secret, {
      httpOnly: true,
      sameSite: 'lax',
      secure: this.config.secureCookies,
      maxAge: LIFETIME,
      path: '/',
    });
  }

  async close(request: Request, response: Response): Promise<void> {
    const secret = cookieOf(request);
    if (secret !== null)
      await (await this.databases.of('identity')).delete(SessionRecord, { tokenHash: hashOf(secret) });
    response.clearCookie(COOKIE, { path: '/' });
  }

  /** Ends every session of a person, wherever it is. */
  async closeAll(person: Pick<Person, 'id'>, response: Response): Promise<void> {
    await (await this.databases.of('identity')).delete(SessionRecord, { personId: person.id });
    response.clearCookie(COOKIE, { path: '/' });
  }

  /** Who sends a request, by token if there is one, else by session. A wrong token is nobody, whatever the session. */
  async identify(request: Request): Promise<Identity | null> {
    const { authorization } = request.headers;
    if (authorization !== undefined) return this.tokens.identify(authorization);
    const secret = cookieOf(request);
    if (secret === null) return null;
    const db = await this.databases.of('identity');
    const session = await db.findOneBy(SessionRecord, {
      tokenHash: hashOf(secret),
      expiresAt: MoreThan(new Date()),
    });
    const person = session ? await db.findOneBy(PersonRecord, { id: session.personId }) : null;
    return person
      ? { person: { id: person.id, name: person.name, email: person.email }, scopes: null }
      : null;
  }
}

function cookieOf(request: Request): string | null {
  const cookies = request.cookies as Record<string, unknown> | undefined;
  const secret = cookies?.[COOKIE];
  return typeof secret === 'string' && secret !== '' ? secret : null;
}
