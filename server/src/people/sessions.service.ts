import { createHash, randomBytes } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import type { Request, Response } from 'express';
import { MoreThan } from 'typeorm';
import type { Person } from '../platform/access/access.js';
import { CONFIG } from '../platform/config/config.module.js';
import type { Config } from '../platform/config/config.js';
import { Databases } from '../platform/database/databases.js';
import { Problem } from '../platform/errors/problem.js';
import { PersonRecord, SessionRecord } from './person.entity.js';

const COOKIE = 'sieve_session';
const LIFETIME = 14 * 24 * 3600 * 1000;

const hashOf = (token: string) => createHash('sha256').update(token).digest();

/** Sign-in with argon2id, and sessions kept in the database under the hash of their token. */
@Injectable()
export class Sessions {
  /** Compared with when nobody has the address, so that both answers take as long. */
  private readonly decoy = hash(randomBytes(16));

  constructor(
    private readonly databases: Databases,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async signUp(email: string, name: string, password: string): Promise<Person> {
    const db = await this.databases.of('identity');
    const address = email.trim().toLowerCase();
    if (await db.existsBy(PersonRecord, { email: address })) {
      throw new Problem(
        409,
        'address-taken',
        'There is an account with this address already. Sign in instead.',
      );
    }
    const person = await db.save(PersonRecord, {
      email: address,
      name: name.trim(),
      passwordHash: await hash(password),
    });
    return { id: person.id, name: person.name, email: person.email };
  }

  async signIn(email: string, password: string): Promise<Person> {
    const db = await this.databases.of('identity');
    const person = await db.findOne(PersonRecord, {
      where: { email: email.trim().toLowerCase() },
      select: { id: true, name: true, email: true, passwordHash: true },
    });
    const right = await verify(person?.passwordHash ?? (await this.decoy), password);
    if (!person || !right)
      throw new Problem(401, 'wrong-sign-in', 'Address and password do not fit together.');
    return { id: person.id, name: person.name, email: person.email };
  }

  async open(person: Person, response: Response): Promise<void> {
    const token = randomBytes(32).toString('base64url');
    const db = await this.databases.of('identity');
    const expiresAt = new Date(Date.now() + LIFETIME);
    await db.insert(SessionRecord, { tokenHash: hashOf(token), personId: person.id, expiresAt });
    response.cookie(COOKIE, token, {
      httpOnly: true,
      sameSite: 'lax',
      secure: this.config.secureCookies,
      maxAge: LIFETIME,
      path: '/',
    });
  }

  async close(request: Request, response: Response): Promise<void> {
    const token = tokenOf(request);
    if (token !== null)
      await (await this.databases.of('identity')).delete(SessionRecord, { tokenHash: hashOf(token) });
    response.clearCookie(COOKIE, { path: '/' });
  }

  async personOf(request: Request): Promise<Person | null> {
    const token = tokenOf(request);
    if (token === null) return null;
    const db = await this.databases.of('identity');
    const session = await db.findOneBy(SessionRecord, {
      tokenHash: hashOf(token),
      expiresAt: MoreThan(new Date()),
    });
    const person = session ? await db.findOneBy(PersonRecord, { id: session.personId }) : null;
    return person ? { id: person.id, name: person.name, email: person.email } : null;
  }
}

function tokenOf(request: Request): string | null {
  const cookies = request.cookies as Record<string, unknown> | undefined;
  const token = cookies?.[COOKIE];
  return typeof token === 'string' && token !== '' ? token : null;
}
