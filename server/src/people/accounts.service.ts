import { Injectable } from '@nestjs/common';
import { verify } from '@node-rs/argon2';
import type { Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { Problem } from '../platform/errors/problem.js';
import { Limits } from '../platform/limits/limits.service.js';
import { PersonRecord } from './person.entity.js';
import { hashPassword, newSecret } from './secrets.js';

const addressOf = (email: string): string => email.trim().toLowerCase();

/** Making accounts and proving that one is one's own. */
@Injectable()
export class Accounts {
  /** Compared with when nobody has the address, so that both answers take as long. */
  private readonly decoy = hashPassword(newSecret());

  constructor(
    private readonly databases: Databases,
    private readonly limits: Limits,
  ) {}

  async signUp(email: string, name: string, password: string, from: string): Promise<Person> {
    await this.limits.take('sign-up address', from);
    const db = await this.databases.of('identity');
    const address = addressOf(email);
    if (await db.existsBy(PersonRecord, { email: address })) {
      throw new Problem(
        409,
        'address-taken',
        'There is an account with this address already. Sign in instead, or ask your instructor for a link.',
      );
    }
    const passwordHash = await hashPassword(password);
    const person = await db.save(PersonRecord, { email: address, name: name.trim(), passwordHash });
    return { id: person.id, name: person.name, email: person.email };
  }

  /** @param from the network address that asks */
  async signIn(email: string, password: string, from: string): Promise<Person> {
    const address = addressOf(email);
    await this.limits.check('sign-in address', from);
    await this.limits.check('sign-in account', address);
    const db = await this.databases.of('identity');
    const person = await db.findOne(PersonRecord, {
      where: { email: address },
      select: { id: true, name: true, email: true, passwordHash: true },
    });
    const right = await verify(person?.passwordHash ?? (await this.decoy), password);
    if (!person || !right) {
      await this.limits.take('sign-in address', from);
      await this.limits.take('sign-in account', address);
      throw new Problem(401, 'wrong-sign-in', 'Address and password do not fit together.');
    }
    await this.limits.forget('sign-in account', address);
    return { id: person.id, name: person.name, email: person.email };
  }
}
