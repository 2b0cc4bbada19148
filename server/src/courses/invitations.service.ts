import { Injectable } from '@nestjs/common';
import { MoreThan, type EntityManager } from 'typeorm';
import type { InvitationInfo, InvitationShown, MadeLink, NewInvitation, OwnInvitation } from '../api/api.js';
import { note } from '../audit/note.js';
import { addressOf, addressTaken } from '../people/accounts.service.js';
import { checkPassword } from '../people/passwords.js';
import { PersonRecord } from '../people/person.entity.js';
import { hashOf, hashPassword, newSecret } from '../people/secrets.js';
import { setPassword } from '../people/set-password.js';
import type { Caller, Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { conflict, notFound } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { Limits } from '../platform/limits/limits.service.js';
import { CourseRecord, Membership } from './course.entity.js';
import { InvitationRecord } from './invitation.entity.js';
import { join } from './joining.js';

const LIFETIME = 60 * 24 * 3600 * 1000;

/**
 * Invitations to a course. Nobody is put into a course: a person accepts, by the link that the instructor hands on or,
 * as a student, by the address of their account. A role on the staff comes by the link alone.
 */
@Injectable()
export class Invitations {
  constructor(
    private readonly databases: Databases,
    private readonly limits: Limits,
  ) {}

  async list(caller: Caller): Promise<InvitationInfo[]> {
    const db = await this.databases.of('identity');
    const found = await db.find(InvitationRecord, {
      where: { courseId: caller.courseId },
      order: { role: 'ASC', name: 'ASC', id: 'ASC' },
    });
    return found.map(({ id, name, email, role, createdAt, expiresAt }) => ({
      id,
      name,
      email,
      role,
      createdAt: createdAt.toISOString(),
      expiresAt: expiresAt.toISOString(),
    }));
  }

  /** @throws Problem 409 `is-member` where the address is that of somebody who has the role already */
  async invite(caller: Caller, { email, name, role }: NewInvitation): Promise<MadeLink> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const address = addressOf(email);
      const person = await manager.findOneBy(PersonRecord, { email: address });
      const { courseId } = caller;
      const member = person && (await manager.findOneBy(Membership, { courseId, personId: person.id }));
      if (member && (member.role === role || member.role === 'instructor'))
        throw conflict('is-member', `${address} is in this course already.`);
      const link = await makeInvitation(manager, caller, { email: address, name: name.trim(), role });
      await note(manager, caller, 'person invited', address, { role });
      await announce(manager, { courseId, to: 'staff', about: 'people' });
      return link;
    });
  }

  /** Another link in place of the one that was handed out, which no longer works. */
  renew(caller: Caller, id: string): Promise<MadeLink> {
    return this.withOwn(caller, id, async (manager, { email, name, role }) => {
      const link = await makeInvitation(manager, caller, { email, name, role });
      await note(manager, caller, 'person invited', email, { role });
      return link;
    });
  }

  revoke(caller: Caller, id: string): Promise<void> {
    return this.withOwn(caller, id, async (manager, { email, role }) => {
      await manager.delete(InvitationRecord, { id });
      await note(manager, caller, 'invitation revoked', email, { role });
    });
  }

  /** What the link of an invitation shows to anybody who has it. It says nothing about accounts. */
  async show(secret: string, from: string): Promise<InvitationShown> {
    const { invitation, course, by } = await this.bySecret(await this.databases.of('identity'), secret, from);
    const { name, email, role } = invitation;
    return { course: course.name, courseId: course.id, role, name, email, invitedBy: by };
  }

  /** Joins by the link, with the account that is signed in. */
  async accept(person: Person, secret: string, from: string): Promise<{ id: string }> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const { invitation } = await this.bySecret(manager, secret, from);
      return this.take(manager, invitation, person.id, 'invitation');
    });
  }

  /**
   * Joins by the link as somebody who has no account yet: claims the account of the invitation's address.
   *
   * @throws Problem 409 `address-taken` where somebody has claimed it
   */
  async claim(secret: string, password: string, from: string): Promise<Person> {
    const db = await this.databases.of('identity');
    const { invitation } = await this.bySecret(db, secret, from);
    checkPassword(password, invitation);
    const passwordHash = await hashPassword(password);
    return db.transaction(async (manager) => {
      const { invitation: still } = await this.bySecret(manager, secret, from);
      const person = await manager.findOne(PersonRecord, {
        where: { email: still.email },
        select: { id: true, name: true, email: true, passwordHash: true },
        lock: { mode: 'pessimistic_write' },
      });
      if (!person || person.passwordHash !== null) throw addressTaken();
      await setPassword(manager, person.id, passwordHash);
      await this.take(manager, still, person.id, 'invitation');
      return { id: person.id, name: person.name, email: person.email };
    });
  }

  /**
   * Invitations to the address of an account: as a student alone, since an address proves nothing, and of an account that
   * somebody had when they were invited.
   */
  async toAddress(person: Person): Promise<OwnInvitation[]> {
    const db = await this.databases.of('identity');
    return db.query(
      `SELECT i.id, c.name AS course, i.role, p.name AS "invitedBy"
         FROM identity.invitation i JOIN course c ON c.id = i.course_id JOIN identity.person p ON p.id = i.made_by
        WHERE i.email = $1 AND i.role = 'student' AND NOT i.by_link_only AND i.expires_at > now() ORDER BY c.name, i.id`,
      [person.email],
    );
  }

  async acceptOwn(person: Person, id: string): Promise<{ id: string }> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const invitation = await manager.findOneBy(InvitationRecord, { ...ownOf(person), id });
      if (!invitation) throw notFound();
      return this.take(manager, invitation, person.id, 'address');
    });
  }

  async declineOwn(person: Person, id: string): Promise<void> {
    const db = await this.databases.of('identity');
    const declined = await db.delete(InvitationRecord, { ...ownOf(person), id });
    if (declined.affected !== 1) throw notFound();
  }

  private async take(
    manager: EntityManager,
    { id, courseId, role }: InvitationRecord,
    personId: string,
    joinedBy: Membership['joinedBy'],
  ): Promise<{ id: string }> {
    const taken = await manager.delete(InvitationRecord, { id });
    if (taken.affected !== 1) throw notFound();
    await join(manager, { courseId, personId, role, joinedBy });
    return { id: courseId };
  }

  private async bySecret(
    db: EntityManager,
    secret: string,
    from: string,
  ): Promise<{ invitation: InvitationRecord; course: CourseRecord; by: string }> {
    await this.limits.check('link address', from);
    const invitation = await db.findOneBy(InvitationRecord, {
      tokenHash: hashOf(secret),
      expiresAt: MoreThan(new Date()),
    });
    if (!invitation) {
      await this.limits.take('link address', from);
      throw notFound();
    }
    const course = await db.findOneByOrFail(CourseRecord, { id: invitation.courseId });
    const { name } = await db.findOneByOrFail(PersonRecord, { id: invitation.madeBy });
    return { invitation, course, by: name };
  }

  private async withOwn<T>(
    { courseId }: Caller,
    id: string,
    work: (manager: EntityManager, invitation: InvitationRecord) => Promise<T>,
  ): Promise<T> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const invitation = await manager.findOneBy(InvitationRecord, { id, courseId });
      if (!invitation) throw notFound();
      const done = await work(manager, invitation);
      await announce(manager, { courseId, to: 'staff', about: 'people' });
      return done;
    });
  }
}

const ownOf = ({ email }: Person) =>
  ({ email, role: 'student', byLinkOnly: false, expiresAt: MoreThan(new Date()) }) as const;

/**
 * Invites an address, in place of an earlier invitation. Where nobody has the address an account is made for it, which
 * stays unclaimed until a password is set through the invitation.
 */
export async function makeInvitation(
  manager: EntityManager,
  { courseId, person }: Pick<Caller, 'courseId' | 'person'>,
  { email, name, role }: Pick<InvitationRecord, 'email' | 'name' | 'role'>,
): Promise<MadeLink> {
  const secret = newSecret();
  const account = await manager.findOne(PersonRecord, {
    where: { email },
    select: { id: true, passwordHash: true },
  });
  if (!account) await manager.insert(PersonRecord, { email, name, passwordHash: null });
  const earlier = await manager.findOneBy(InvitationRecord, { courseId, email });
  await manager.delete(InvitationRecord, { courseId, email });
  await manager.insert(InvitationRecord, {
    courseId,
    email,
    name,
    role,
    tokenHash: hashOf(secret),
    byLinkOnly: (account?.passwordHash ?? null) === null || (earlier?.byLinkOnly ?? false),
    madeBy: person.id,
    expiresAt: new Date(Date.now() + LIFETIME),
  });
  return { name, email, path: `/invitation/${secret}` };
}
