import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { ChangeRole, MadeLink, Member, RosterLine, RosterPreview, RosterResult } from '../api/api.js';
import { note } from '../audit/note.js';
import { Links } from '../people/links.service.js';
import { PersonRecord } from '../people/person.entity.js';
import { mayReset } from '../people/resets.js';
import type { Caller } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { lockFor } from '../platform/database/lock.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { announce, announceSessions } from '../platform/events/announce.js';
import { Membership } from './course.entity.js';
import { deleteWork } from './deleting.js';
import { RemovedMember } from './invitation.entity.js';
import { makeInvitation } from './invitations.service.js';
import { readRoster } from './roster.js';

/** Who is in a course, and what an instructor may change about it. */
@Injectable()
export class Members {
  constructor(
    private readonly databases: Databases,
    private readonly links: Links,
  ) {}

  async list(caller: Caller): Promise<Member[]> {
    const db = await this.databases.of('identity');
    const members: Omit<Member, 'mayReset'>[] = await db.query(
      `SELECT p.id, p.name, p.email, m.role, m.section, m.joined_at AS "joinedAt", m.joined_by AS "joinedBy"
         FROM membership m JOIN identity.person p ON p.id = m.person_id
        WHERE m.course_id = $1 ORDER BY m.role = 'student', m.role, p.name, p.id`,
      [caller.courseId],
    );
    // In no course but those that the caller teaches, as mayReset asks one by one.
    const elsewhere: { id: string }[] = await db.query(
      `SELECT m.person_id AS id FROM membership m JOIN identity.person p ON p.id = m.person_id
        WHERE m.course_id = $1 AND (m.role = 'instructor' OR p.is_administrator OR p.may_make_courses OR EXISTS (
          SELECT 1 FROM membership o WHERE o.person_id = m.person_id AND (o.role = 'instructor' OR NOT EXISTS (
            SELECT 1 FROM membership t WHERE t.course_id = o.course_id AND t.person_id = $2 AND t.role = 'instructor'))))`,
      [caller.courseId, caller.person.id],
    );
    const others = new Set(elsewhere.map(({ id }) => id));
    return members.map((member) => ({ ...member, mayReset: !others.has(member.id) }));
  }

  changeRole(caller: Caller, personId: string, { role }: ChangeRole): Promise<void> {
    return this.withMember(caller, personId, async (manager, person) => {
      await manager.update(Membership, { courseId: caller.courseId, personId }, { role });
      await note(manager, caller, 'role changed', person.name, { to: role });
      await announceSessions(manager, personId);
    });
  }

  /** Says in which part of the course somebody is taught. */
  setSection(caller: Caller, personId: string, section: string | null): Promise<void> {
    return this.withMember(caller, personId, async (manager, person) => {
      await manager.update(Membership, { courseId: caller.courseId, personId }, { section });
      await note(manager, caller, 'section set', person.name, { to: section ?? 'none' });
    });
  }

  /**
   * Ends a membership: no code brings the person back until they are invited again.
   *
   * @param withWork whether what they handed in is deleted too; it stays otherwise
   */
  remove(caller: Caller, personId: string, withWork: boolean): Promise<void> {
    return this.withMember(caller, personId, async (manager, person) => {
      const { courseId } = caller;
      await lockFor(manager, `membership ${courseId} ${personId}`);
      await manager.delete(Membership, { courseId, personId });
      await manager.delete(RemovedMember, { courseId, personId });
      await manager.insert(RemovedMember, { courseId, personId });
      await note(manager, caller, 'person removed', person.name);
      if (withWork) {
        const files = await deleteWork(manager, personId, courseId);
        await note(manager, caller, 'work deleted', person.name, { submissions: files });
      }
      await announceSessions(manager, personId);
    });
  }

  /** A one-time link by which a member sets a new password; see `mayReset`. */
  async passwordLink(caller: Caller, personId: string): Promise<MadeLink> {
    return this.withMember(caller, personId, async (manager, person) => {
      if (!(await mayReset(manager, caller.person.id, personId)))
        throw conflict(
          'not-yours-alone',
          `${person.name} is not in your courses alone, so that only the administrator of this server makes a link for a new password.`,
        );
      const path = await this.links.make(manager, person, caller.person);
      return { name: person.name, email: person.email, path };
    });
  }

  async previewRoster(caller: Caller, bytes: Uint8Array, file: string): Promise<RosterPreview> {
    return { lines: await rosterLines(await this.databases.of('identity'), caller, bytes, file) };
  }

  /** Invites everybody on a class list who is not in the course yet, or nobody if a line is refused. */
  async importRoster(caller: Caller, bytes: Uint8Array, file: string): Promise<RosterResult> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const lines = await rosterLines(manager, caller, bytes, file);
      const refused = lines.find((line) => line.what === 'refused');
      if (refused) {
        throw new Problem(422, 'roster', `${file}, line ${refused.line}: ${refused.problem ?? ''}.`, {
          file,
          line: refused.line,
        });
      }
      const links: MadeLink[] = [];
      for (const line of lines)
        if (line.what !== 'already here') links.push(await makeInvitation(manager, caller, line));
      await note(manager, caller, 'roster imported', file, { invited: links.length });
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'people' });
      return { invited: links.length, links };
    });
  }

  /** Does something to a member who is no instructor, and notifies everybody concerned. */
  private async withMember<T>(
    caller: Caller,
    personId: string,
    work: (manager: EntityManager, person: PersonRecord) => Promise<T>,
  ): Promise<T> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const membership = await manager.findOneBy(Membership, { courseId: caller.courseId, personId });
      if (!membership) throw notFound();
      if (membership.role === 'instructor')
        throw conflict('is-instructor', 'This is not done to an instructor.');
      const done = await work(manager, await manager.findOneByOrFail(PersonRecord, { id: personId }));
      await announce(manager, { courseId: caller.courseId, to: personId, about: 'people' });
      return done;
    });
  }
}

/** What importing each line would do. Of addresses outside the course it says nothing that the caller did not know. */
async function rosterLines(
  manager: EntityManager,
  caller: Caller,
  bytes: Uint8Array,
  file: string,
): Promise<RosterLine[]> {
  const read = readRoster(bytes, file);
  const known: { email: string; here: boolean }[] = await manager.query(
    `SELECT p.email, true AS here FROM membership m JOIN identity.person p ON p.id = m.person_id WHERE m.course_id = $1
      UNION ALL SELECT i.email, false FROM identity.invitation i WHERE i.course_id = $1`,
    [caller.courseId],
  );
  const here = new Map(known.map((person) => [person.email, person.here]));
  return read.map((line) => {
    const isHere = here.get(line.email);
    const what = isHere === undefined ? 'invited' : isHere ? 'already here' : 'invited again';
    return { ...line, what: line.problem === null ? what : 'refused' };
  });
}
