import { Inject, Injectable } from '@nestjs/common';
import type { Request, Response } from 'express';
import { MoreThan } from 'typeorm';
import type { Person } from '../platform/access/access.js';
import type { Identities, Identity } from '../platform/access/identities.js';
import { CONFIG } from '../platform/config/config.module.js';
import type { Config } from '../platform/config/config.js';
import { Databases } from '../platform/database/databases.js';
import { announceSessions } from '../platform/events/announce.js';
import { DeviceRecord, PersonRecord, SessionRecord } from './person.entity.js';
import { hashOf, newSecret } from './secrets.js';
import { Tokens } from './tokens.service.js';

const DAY = 24 * 3600 * 1000;
const LIFETIME = 14 * DAY;
const DEVICE_LIFETIME = 365 * DAY;

/** Sessions, kept in the database under the hash of their secret; and browsers in which a person has signed in. */
@Injectable()
export class Sessions implements Identities {
  constructor(
    private readonly databases: Databases,
    private readonly tokens: Tokens,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  /** Opens a session in place of the one that the browser had, and remembers the browser. */
  async open(person: Person, request: Request, response: Response): Promise<void> {
    const db = await this.databases.of('identity');
    const [session, device] = [newSecret(), newSecret()];
    const [oldSession, oldDevice] = [this.cookieOf(request, 'session'), this.cookieOf(request, 'device')];
    await db.transaction(async (manager) => {
      if (oldSession !== null) await manager.delete(SessionRecord, { tokenHash: hashOf(oldSession) });
      if (oldDevice !== null) await manager.delete(DeviceRecord, { tokenHash: hashOf(oldDevice) });
      const expiresAt = new Date(Date.now() + LIFETIME);
      await manager.insert(SessionRecord, { tokenHash: hashOf(session), personId: person.id, expiresAt });
      await manager.insert(DeviceRecord, { tokenHash: hashOf(device), personId: person.id });
    });
    this.setCookie(response, 'session', session, LIFETIME);
    this.setCookie(response, 'device', device, DEVICE_LIFETIME);
  }

  async close(request: Request, response: Response): Promise<void> {
    const secret = this.cookieOf(request, 'session');
    if (secret !== null) {
      const db = await this.databases.of('identity');
      const session = await db.findOneBy(SessionRecord, { tokenHash: hashOf(secret) });
      await db.delete(SessionRecord, { tokenHash: hashOf(secret) });
      if (session) await announceSessions(db, session.personId);
    }
    this.clearCookie(response);
  }

  /** Ends every session of a person, wherever it is. */
  async closeAll(person: Pick<Person, 'id'>, response: Response): Promise<void> {
    const db = await this.databases.of('identity');
    await db.delete(SessionRecord, { personId: person.id });
    await announceSessions(db, person.id);
    this.clearCookie(response);
  }

  /** The person whose browser sends a request, by an earlier sign-in; null for a browser that is not known. */
  async knownAs(request: Request): Promise<string | null> {
    const secret = this.cookieOf(request, 'device');
    if (secret === null) return null;
    const db = await this.databases.of('identity');
    return (await db.findOneBy(DeviceRecord, { tokenHash: hashOf(secret) }))?.personId ?? null;
  }

  /** Who sends a request, by token if there is one, else by session. A wrong token is nobody, whatever the session. */
  async identify(request: Request): Promise<Identity | null> {
    const { authorization } = request.headers;
    if (authorization !== undefined) return this.tokens.identify(authorization);
    const secret = this.cookieOf(request, 'session');
    if (secret === null) return null;
    const db = await this.databases.of('identity');
    const session = await db.findOneBy(SessionRecord, {
      tokenHash: hashOf(secret),
      expiresAt: MoreThan(new Date()),
    });
    const person = session ? await db.findOneBy(PersonRecord, { id: session.personId }) : null;
    return person
      ? {
          person: { id: person.id, name: person.name, email: person.email },
          isAdministrator: person.isAdministrator,
          scopes: null,
        }
      : null;
  }

  /** Over TLS the name binds a cookie to this host and path: no neighbouring site can set it (RFC 6265bis, `__Host-`). */
  private nameOf(what: 'session' | 'device'): string {
    return `${this.config.secureCookies ? '__Host-' : ''}sieve_${what}`;
  }

  private setCookie(response: Response, what: 'session' | 'device', secret: string, maxAge: number): void {
    response.cookie(this.nameOf(what), secret, { ...this.attributes(), maxAge });
  }

  private clearCookie(response: Response): void {
    response.clearCookie(this.nameOf('session'), this.attributes());
  }

  private readonly attributes = () =>
    ({ httpOnly: true, sameSite: 'lax', secure: this.config.secureCookies, path: '/' }) as const;

  private cookieOf(request: Request, what: 'session' | 'device'): string | null {
    const cookies = request.cookies as Record<string, unknown> | undefined;
    const secret = cookies?.[this.nameOf(what)];
    return typeof secret === 'string' && secret !== '' ? secret : null;
  }
}
