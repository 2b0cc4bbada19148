import { Injectable } from '@nestjs/common';
import { MoreThan, type EntityManager } from 'typeorm';
import type { Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { notFound } from '../platform/errors/problem.js';
import { Limits } from '../platform/limits/limits.service.js';
import { PasswordLinkRecord, PersonRecord, SessionRecord, TokenRecord } from './person.entity.js';
import { hashOf, hashPassword, newSecret } from './secrets.js';

const LIFETIME = 7 * 24 * 3600 * 1000;

/** One-time links by which a person sets a password: there is no mail server, so instructors hand them on. */
@Injectable()
export class Links {
  constructor(
    private readonly databases: Databases,
    private readonly limits: Limits,
  ) {}

  /** A link for a person; earlier ones no longer work. Returns the path under the server's address. */
  async make(manager: EntityManager, personId: string, madeBy: string): Promise<string> {
    const secret = newSecret();
    const expiresAt = new Date(Date.now() + LIFETIME);
    await manager.delete(PasswordLinkRecord, { personId });
    await manager.insert(PasswordLinkRecord, { tokenHash: hashOf(secret), personId, madeBy, expiresAt });
    return `/password/${secret}`;
  }

  /** Whom a link is for. @throws Problem 404 for one that was used, has expired or never was */
  async personOf(secret: string, from: string): Promise<Person> {
    await this.limits.check('link address', from);
    const db = await this.databases.of('identity');
    const link = await db.findOneBy(PasswordLinkRecord, {
      tokenHash: hashOf(secret),
      expiresAt: MoreThan(new Date()),
    });
    const person = link && (await db.findOneBy(PersonRecord, { id: link.personId }));
    if (!person) {
      await this.limits.take('link address', from);
      throw notFound();
    }
    return { id: person.id, name: person.name, email: person.email };
  }

  /** Sets the password, once. Every session and token that the person had ends. */
  async use(secret: string, password: string, from: string): Promise<Person> {
    const person = await this.personOf(secret, from);
    const passwordHash = await hashPassword(password);
    const db = await this.databases.of('identity');
    await db.transaction(async (manager) => {
      const taken = await manager.delete(PasswordLinkRecord, { tokenHash: hashOf(secret) });
      if (taken.affected !== 1) throw notFound();
      await manager.update(PersonRecord, { id: person.id }, { passwordHash });
      await manager.delete(SessionRecord, { personId: person.id });
      await manager.delete(TokenRecord, { personId: person.id });
    });
    return person;
  }
}
