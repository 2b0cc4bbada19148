import { Injectable } from '@nestjs/common';
import { In, type EntityManager } from 'typeorm';
import type { ChangeRole, MadeLink, Member, RosterLine, RosterPreview, RosterResult } from '../api/api.js';
import { note } from '../audit/note.js';
import { Links } from '../people/links.service.js';
import { PersonRecord } from '../people/person.entity.js';
import type { Caller } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { conflict, notFound, Problem } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { Membership } from './course.entity.js';
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
    return db.query(
      `SELECT p.id, p.name, p.email, m.role, m.joined_at AS "joinedAt", p.password_hash IS NOT NULL AS "hasPassword"
         FROM membership m JOIN identity.person p ON p.id = m.person_id
        WHERE m.course_id = $1 ORDER BY m.role = 'student', m.role, p.name, p.id`,
      [caller.courseId],
    );
  }

  changeRole(caller: Caller, personId: string, { role }: ChangeRole): Promise<void> {
    return this.withMember(caller, personId, async (manager, person) => {
      await manager.update(Membership, { courseId: caller.courseId, personId }, { role });
      await note(manager, caller, 'role changed', person.name, { to: role });
    });
  }

  /** Ends a membership. What the person handed in stays. */
  remove(caller: Caller, personId: string): Promise<void> {
    return this.withMember(caller, personId, async (manager, person) => {
      await manager.delete(Membership, { courseId: caller.courseId, personId });
      await note(manager, caller, 'person removed', person.name);
    });
  }

  /**
   * A one-time link by which a member sets a new password. Not for instructors, and not for staff of another course:
   * whoever holds the link is that person from then on.
   */
  async passwordLink(caller: Caller, personId: string): Promise<MadeLink> {
    return this.withMember(caller, personId, async (manager, person) => {
      const staffElsewhere = await manager.countBy(Membership, {
        personId,
        role: In(['instructor', 'assistant']),
      });
      const staffHere = await manager.existsBy(Membership, {
        courseId: caller.courseId,
        personId,
        role: 'assistant',
      });
      if (staffElsewhere > (staffHere ? 1 : 0)) {
        throw conflict(
          'staff-elsewhere',
          `${person.name} is staff of another course, so the link has to come from the person who runs this server.`,
        );
      }
      const path = await this.links.make(manager, personId, caller.person.id);
      await note(manager, caller, 'link made', person.name);
      return { name: person.name, email: person.email, path };
    });
  }

  async previewRoster(caller: Caller, bytes: Uint8Array, file: string): Promise<RosterPreview> {
    return { lines: await this.rosterLines(await this.databases.of('identity'), caller, bytes, file) };
  }

  /** Brings everybody on a roster into the course, or nobody if a line is refused. */
  async importRoster(caller: Caller, bytes: Uint8Array, file: string): Promise<RosterResult> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const lines = await this.rosterLines(manager, caller, bytes, file);
      const refused = lines.find((line) => line.what === 'refused');
      if (refused) {
        throw new Problem(422, 'roster', `${file}, line ${refused.line}: ${refused.problem ?? ''}.`, {
          file,
          line: refused.line,
        });
      }
      const links: MadeLink[] = [];
      let joined = 0;
      for (const { name, email, role, what } of lines) {
        if (what === 'already here') continue;
        const known = await manager.findOneBy(PersonRecord, { email });
        const person = known ?? (await manager.save(PersonRecord, { name, email, passwordHash: null }));
        await manager.insert(Membership, { courseId: caller.courseId, personId: person.id, role });
        joined++;
        if (!known) {
          links.push({ name, email, path: await this.links.make(manager, person.id, caller.person.id) });
        }
      }
      await note(manager, caller, 'roster imported', file, { joined, accounts: links.length });
      await announce(manager, { courseId: caller.courseId, to: 'staff' });
      return { joined, links };
    });
  }

  private async rosterLines(
    manager: EntityManager,
    caller: Caller,
    bytes: Uint8Array,
    file: string,
  ): Promise<RosterLine[]> {
    const read = readRoster(bytes, file);
    const known: { email: string; here: boolean }[] = await manager.query(
      `SELECT p.email, m.person_id IS NOT NULL AS here FROM identity.person p
         LEFT JOIN membership m ON m.person_id = p.id AND m.course_id = $1 WHERE p.email = ANY ($2)`,
      [caller.courseId, read.map((line) => line.email)],
    );
    const here = new Map(known.map((person) => [person.email, person.here]));
    return read.map((line) => {
      const isHere = here.get(line.email);
      const what =
        line.problem !== null
          ? 'refused'
          : isHere === undefined
            ? 'new account'
            : isHere
              ? 'already here'
              : 'joins';
      return { ...line, what };
    });
  }

  /** Does something to a member who is no instructor, and tells everybody concerned. */
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
      await announce(manager, { courseId: caller.courseId, to: personId });
      return done;
    });
  }
}
