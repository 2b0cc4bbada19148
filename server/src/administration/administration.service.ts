import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type {
  AdministeredCourse,
  AdministeredPerson,
  CourseMakers,
  MadeLink,
  ServerLog,
} from '../api/api.js';
import { deleteCourse, deleteWork, recordOnServer } from '../courses/deleting.js';
import { Membership } from '../courses/course.entity.js';
import { Links } from '../people/links.service.js';
import { AccountEvent, PersonRecord } from '../people/person.entity.js';
import { endAccess } from '../people/set-password.js';
import type { Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { conflict, notFound } from '../platform/errors/problem.js';
import { claimAdministration } from './first-administrator.js';

const MOST = 100;

/** What the administrator of the server does about people and courses. Everything of it is in the server's log. */
@Injectable()
export class Administration {
  constructor(
    private readonly databases: Databases,
    private readonly links: Links,
  ) {}

  /** People by a part of their name or address. */
  async people(search: string): Promise<AdministeredPerson[]> {
    const db = await this.databases.of('identity');
    return db.query(
      `SELECT p.id, p.name, p.email, p.is_administrator AS administers, p.may_make_courses AS "makesCourses",
              (SELECT count(*)::int FROM membership m WHERE m.person_id = p.id) AS courses,
              (SELECT count(*)::int FROM submission s WHERE s.person_id = p.id) AS submissions
         FROM identity.person p
        WHERE p.deleted_at IS NULL AND (p.name ILIKE $1 OR p.email ILIKE $1) ORDER BY p.name, p.id LIMIT ${MOST}`,
      [`%${search.replace(/[\\%_]/g, '\\$&')}%`],
    );
  }

  async courses(): Promise<AdministeredCourse[]> {
    const db = await this.databases.of('identity');
    return db.query(
      `SELECT c.id, c.name, c.created_at AS "createdAt",
              (SELECT coalesce(string_agg(p.name, ', ' ORDER BY p.name), '') FROM membership m
                 JOIN identity.person p ON p.id = m.person_id WHERE m.course_id = c.id AND m.role = 'instructor') AS instructors,
              (SELECT count(*)::int FROM membership m WHERE m.course_id = c.id AND m.role = 'student') AS students
         FROM course c ORDER BY c.created_at DESC, c.id LIMIT ${MOST}`,
    );
  }

  async log(): Promise<ServerLog[]> {
    const db = await this.databases.of('identity');
    return db.query(
      `SELECT id::text, at, by, text FROM identity.server_event ORDER BY id DESC LIMIT ${MOST}`,
    );
  }

  async courseMakers(): Promise<CourseMakers> {
    const db = await this.databases.of('identity');
    const [found]: { value: CourseMakers['who'] }[] = await db.query(
      `SELECT value FROM identity.setting WHERE name = 'course-makers'`,
    );
    return { who: found?.value ?? 'invited' };
  }

  setCourseMakers(by: Person, { who }: CourseMakers): Promise<void> {
    return this.record(
      by,
      who === 'anyone' ? 'let everybody make courses' : 'let only allowed people make courses',
      (manager) =>
        manager.query(`UPDATE identity.setting SET value = $1 WHERE name = 'course-makers'`, [who]),
    );
  }

  async allow(by: Person, personId: string, makesCourses: boolean): Promise<void> {
    await this.withPerson(personId, async (manager, person) => {
      await manager.update(PersonRecord, { id: personId }, { mayMakeCourses: makesCourses });
      const what = makesCourses ? 'allowed' : 'no longer allowed';
      await recordOnServer(manager, by.name, `${what} ${person.email} to make courses`);
      await manager.insert(AccountEvent, { personId, text: `${by.name} ${what} you to make courses.` });
    });
  }

  /** A link for a new password, for anybody but another administrator; those use the command. */
  passwordLink(by: Person, personId: string): Promise<MadeLink> {
    return this.withPerson(personId, async (manager, person) => {
      if (person.isAdministrator)
        throw conflict('is-administrator', 'A link for an administrator is made by the command alone.');
      const path = await this.links.make(manager, person, by);
      await recordOnServer(manager, by.name, `made a link for a new password of ${person.email}`);
      return { name: person.name, email: person.email, path };
    });
  }

  /**
   * Deletes a person with what they handed in. What they did as staff stays, by a name that is nobody's, since other
   * people's courses depend on it.
   */
  deletePerson(by: Person, personId: string): Promise<void> {
    return this.withPerson(personId, async (manager, person) => {
      if (person.isAdministrator)
        throw conflict(
          'is-administrator',
          'An administrator is not deleted. Take the role away by the command first.',
        );
      const alone: { name: string }[] = await manager.query(
        `SELECT c.name FROM membership m JOIN course c ON c.id = m.course_id
          WHERE m.person_id = $1 AND m.role = 'instructor' AND NOT EXISTS (
            SELECT 1 FROM membership o WHERE o.course_id = m.course_id AND o.role = 'instructor' AND o.person_id <> $1)`,
        [personId],
      );
      if (alone.length > 0)
        throw conflict(
          'teaches-alone',
          `${person.name} is the only instructor of “${alone[0]?.name ?? ''}”. Delete the course, or let somebody else teach it first.`,
        );
      const submissions = await deleteWork(manager, personId, null);
      await manager.delete(Membership, { personId });
      await manager.query('DELETE FROM identity.invitation WHERE email = $1', [person.email]);
      await manager.delete(AccountEvent, { personId });
      await endAccess(manager, personId);
      await manager.update(
        PersonRecord,
        { id: personId },
        {
          name: 'a deleted person',
          email: `deleted-${randomUUID()}@nowhere.invalid`,
          passwordHash: null,
          mayMakeCourses: false,
          deletedAt: new Date(),
        },
      );
      await recordOnServer(manager, by.name, `deleted a person with ${submissions} submissions`);
    });
  }

  async deleteCourse(by: Person, courseId: string): Promise<void> {
    const db = await this.databases.of('identity');
    await db.transaction((manager) => deleteCourse(manager, courseId, by));
  }

  /** Makes the first administrator of a server that has none, by the link that its start printed. */
  async claim(person: Person, secret: string): Promise<void> {
    const db = await this.databases.of('identity');
    await db.transaction((manager) => claimAdministration(manager, person, secret));
  }

  private async withPerson<T>(
    personId: string,
    work: (manager: EntityManager, person: PersonRecord) => Promise<T>,
  ): Promise<T> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const person = await manager.findOneBy(PersonRecord, { id: personId });
      if (!person || person.deletedAt !== null) throw notFound();
      return work(manager, person);
    });
  }

  private async record(
    by: Person,
    text: string,
    work: (manager: EntityManager) => Promise<unknown>,
  ): Promise<void> {
    const db = await this.databases.of('identity');
    await db.transaction(async (manager) => {
      await work(manager);
      await recordOnServer(manager, by.name, text);
    });
  }
}
