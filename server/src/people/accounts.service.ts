import { Injectable } from '@nestjs/common';
import { verify } from '@node-rs/argon2';
import type { Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { Problem } from '../platform/errors/problem.js';
import { Limits } from '../platform/limits/limits.service.js';
import { checkPassword } from './passwords.js';
import { AccountEvent, PersonRecord } from './person.entity.js';
import { hashPassword, newSecret } from './secrets.js';
import { setPassword } from './set-password.js';

export const addressOf = (email: string): string => email.trim().toLowerCase();

/** Where a request to sign in comes from. */
export interface SignInFrom {
  readonly address: string;
  /** The person whose browser this is known to be; null for a browser that is not known. */
  readonly knownAs: string | null;
}

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
    checkPassword(password, { email: address, name });
    if (await db.existsBy(PersonRecord, { email: address })) throw addressTaken();
    const passwordHash = await hashPassword(password);
    const person = await db.save(PersonRecord, { email: address, name: name.trim(), passwordHash });
    return { id: person.id, name: person.name, email: person.email };
  }

  /**
   * Proves that an account is one's own. The attempt is counted before the password is looked at, and given back when
   * it was right, so that attempts at the same moment are counted too. Failures of others, at the same account or from
   * the same address, slow an unknown browser down; a browser that the person has signed in with before they do not
   * touch.
   *
   * @throws Problem 401 `wrong-sign-in`, 429 `too-many`
   */
  async signIn(email: string, password: string, from: SignInFrom): Promise<Person> {
    const address = addressOf(email);
    const db = await this.databases.of('identity');
    const person = await db.findOne(PersonRecord, {
      where: { email: address },
      select: { id: true, name: true, email: true, passwordHash: true },
    });
    const isKnown = person !== null && person.id === from.knownAs;
    const counted = isKnown
      ? await this.limits.begin([{ name: 'sign-in device', who: person.id }])
      : await this.limits.begin([
          { name: 'sign-in', who: `${address} ${from.address}` },
          { name: 'sign-in account', who: address },
          { name: 'sign-in address', who: from.address },
        ]);
    const isRight = await verify(person?.passwordHash ?? (await this.decoy), password);
    if (!person || !isRight)
      throw new Problem(401, 'wrong-sign-in', 'Address and password do not fit together.');
    await counted.giveBack();
    return { id: person.id, name: person.name, email: person.email };
  }

  /** Sets another password, for a person who is signed in and knows the old one. Every session and token ends. */
  async changePassword(person: Person, old: string, password: string, from: SignInFrom): Promise<void> {
    await this.signIn(person.email, old, { ...from, knownAs: person.id });
    checkPassword(password, person);
    const passwordHash = await hashPassword(password);
    const db = await this.databases.of('identity');
    await db.transaction(async (manager) => {
      await setPassword(manager, person.id, passwordHash);
      await manager.insert(AccountEvent, {
        personId: person.id,
        text: 'You changed your password. Every session and token ended.',
      });
    });
  }

  /** What happened to the account, the latest first. */
  async events(person: Person): Promise<{ at: string; text: string }[]> {
    const db = await this.databases.of('identity');
    const events = await db.find(AccountEvent, {
      where: { personId: person.id },
      order: { id: 'DESC' },
      take: 50,
    });
    return events.map(({ at, text }) => ({ at: at.toISOString(), text }));
  }
}

export const addressTaken = () =>
  new Problem(
    409,
    'address-taken',
    'There is an account with this address already, or an invitation to it. Sign in, follow your invitation, or ask your instructor.',
  );
