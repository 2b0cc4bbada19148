import { Injectable } from '@nestjs/common';
import { MoreThan } from 'typeorm';
import type { MadeToken, TokenInfo, TokenScope } from '../api/api.js';
import type { Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { conflict, notFound } from '../platform/errors/problem.js';
import { PersonRecord, TokenRecord } from './person.entity.js';
import { hashOf, newSecret } from './secrets.js';

/** By which a leaked token is recognised in a file or a log. */
const PREFIX = 'sieve_';
const MOST_TOKENS = 20;
const DAY = 24 * 3600 * 1000;

/** Personal access tokens, for programs that act for a person. Shown once; only the hash is kept. */
@Injectable()
export class Tokens {
  constructor(private readonly databases: Databases) {}

  async of(person: Person): Promise<TokenInfo[]> {
    const db = await this.databases.of('identity');
    const tokens = await db.find(TokenRecord, {
      where: { personId: person.id },
      order: { createdAt: 'DESC' },
    });
    return tokens.map((token) => ({
      id: token.id,
      name: token.name,
      scopes: token.scopes,
      createdAt: token.createdAt.toISOString(),
      expiresAt: token.expiresAt.toISOString(),
      lastUsedAt: token.lastUsedAt?.toISOString() ?? null,
    }));
  }

  async make(person: Person, name: string, scopes: TokenScope[], days: number): Promise<MadeToken> {
    const db = await this.databases.of('identity');
    if ((await db.countBy(TokenRecord, { personId: person.id })) >= MOST_TOKENS)
      throw conflict('too-many-tokens', `You have ${MOST_TOKENS} tokens. Revoke one first.`);
    const secret = `${PREFIX}${newSecret()}`;
    const { id } = await db.save(TokenRecord, {
      personId: person.id,
      name: name.trim(),
      scopes,
      tokenHash: hashOf(secret),
      expiresAt: new Date(Date.now() + days * DAY),
    });
    return { id, token: secret };
  }

  async revoke(person: Person, id: string): Promise<void> {
    const db = await this.databases.of('identity');
    const gone = await db.delete(TokenRecord, { id, personId: person.id });
    if (gone.affected !== 1) throw notFound();
  }

  /** The person of an Authorization header, and what the token allows; null where it is none of ours. */
  async identify(
    authorization: string,
  ): Promise<{ person: Person; isAdministrator: false; scopes: TokenScope[] } | null> {
    const [, secret] = /^Bearer\s+(\S+)$/i.exec(authorization) ?? [];
    if (secret?.startsWith(PREFIX) !== true) return null;
    const db = await this.databases.of('identity');
    const token = await db.findOneBy(TokenRecord, {
      tokenHash: hashOf(secret),
      expiresAt: MoreThan(new Date()),
    });
    const person = token && (await db.findOneBy(PersonRecord, { id: token.personId }));
    if (!person) return null;
    await db.update(TokenRecord, { id: token.id }, { lastUsedAt: new Date() });
    return {
      person: { id: person.id, name: person.name, email: person.email },
      isAdministrator: false,
      scopes: token.scopes,
    };
  }
}
