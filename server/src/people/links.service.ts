import { Injectable } from '@nestjs/common';
import { MoreThan, type EntityManager } from 'typeorm';
import type { Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { notFound } from '../platform/errors/problem.js';
import { Limits } from '../platform/limits/limits.service.js';
import { checkPassword } from './passwords.js';
import { PasswordLinkRecord, PersonRecord } from './person.entity.js';
import { mayReset, tellEveryCourse } from './resets.js';
import { hashOf, hashPassword, newSecret } from './secrets.js';
import { setPassword } from './set-password.js';

const LIFETIME = 24 * 3600 * 1000;

/** One-time links by which a person sets a new password: there is no mail server, so that people hand them on. */
@Injectable()
export class Links {
  constructor(
    private readonly databases: Databases,
    private readonly limits: Limits,
  ) {}

  /**
   * A link for a person, for a day; earlier ones no longer work. The person and all their courses are notified.
   *
   * @param madeBy the instructor or administrator; null for the administrator's command
   * @returns the path under the server's address
   */
  async make(
    manager: EntityManager,
    person: Pick<PersonRecord, 'id' | 'name'>,
    madeBy: { readonly id: string; readonly name: string } | null,
  ): Promise<string> {
    const secret = newSecret();
    const expiresAt = new Date(Date.now() + LIFETIME);
    await manager.delete(PasswordLinkRecord, { personId: person.id });
    await manager.insert(PasswordLinkRecord, {
      tokenHash: hashOf(secret),
      personId: person.id,
      madeBy: madeBy?.id ?? null,
      expiresAt,
    });
    await tellEveryCourse(manager, person, {
      action: 'link made',
      by: madeBy?.id ?? null,
      text: `${madeBy?.name ?? 'The administrator of this server'} made a link by which your password can be set.`,
    });
    return `/password/${secret}`;
  }

  /** Whom a link is for. @throws Problem 404 for one that was used, has expired, never was, or may not be used any more */
  async personOf(secret: string, from: string): Promise<Person> {
    await this.limits.check('link address', from);
    const db = await this.databases.of('identity');
    const found = await usableLink(db, secret);
    if (!found) {
      await this.limits.take('link address', from);
      throw notFound();
    }
    const { id, name, email } = found.person;
    return { id, name, email };
  }

  /** Sets the password, once. Every session, token and known browser of the person ends. */
  async use(secret: string, password: string, from: string): Promise<Person> {
    const person = await this.personOf(secret, from);
    checkPassword(password, person);
    const passwordHash = await hashPassword(password);
    const db = await this.databases.of('identity');
    await db.transaction(async (manager) => {
      // What the maker of the link may do can have changed since it was made.
      const still = await usableLink(manager, secret);
      const taken = still && (await manager.delete(PasswordLinkRecord, { tokenHash: hashOf(secret) }));
      if (!still || taken?.affected !== 1) throw notFound();
      await setPassword(manager, person.id, passwordHash);
      await tellEveryCourse(manager, person, {
        action: 'password set by a link',
        by: still.link.madeBy,
        text: 'A new password was set by a link. Every session and token ended.',
      });
    });
    return person;
  }
}

/** A link that may be used now: its maker still administers, or still teaches all courses of the person. */
async function usableLink(
  manager: EntityManager,
  secret: string,
): Promise<{ link: PasswordLinkRecord; person: PersonRecord } | null> {
  const link = await manager.findOneBy(PasswordLinkRecord, {
    tokenHash: hashOf(secret),
    expiresAt: MoreThan(new Date()),
  });
  const person = link && (await manager.findOneBy(PersonRecord, { id: link.personId }));
  if (!person || person.deletedAt !== null) return null;
  if (link.madeBy === null) return { link, person };
  const maker = await manager.findOneBy(PersonRecord, { id: link.madeBy });
  const isAllowed = maker?.isAdministrator === true || (await mayReset(manager, link.madeBy, person.id));
  return isAllowed ? { link, person } : null;
}
