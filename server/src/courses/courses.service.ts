import { randomInt } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { MoreThan } from 'typeorm';
import type { CourseDetail, CourseSummary } from '../api/api.js';
import { note } from '../audit/note.js';
import { isStaff, type Caller, type Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { Problem } from '../platform/errors/problem.js';
import { Limits } from '../platform/limits/limits.service.js';
import { announce } from '../platform/events/announce.js';
import { lockFor } from '../platform/database/lock.js';
import { CourseRecord, Membership } from './course.entity.js';
import { RemovedMember } from './invitation.entity.js';
import { deleteCourse } from './deleting.js';
import { join } from './joining.js';

/** Letters and digits that are not taken for one another; ten of them carry 49 bits. */
const CODE_ALPHABET = '23456789ABCDEFGHJKLMNPQRSTUVWXYZ';

const joinCode = () => {
  const letters = Array.from({ length: 10 }, () => CODE_ALPHABET[randomInt(CODE_ALPHABET.length)]).join('');
  return `${letters.slice(0, 5)}-${letters.slice(5)}`;
};

/** A code as it is kept, however it was typed: in small letters, without the hyphen or with blanks. */
const asWritten = (code: string): string => {
  const letters = code.toUpperCase().replace(/[^0-9A-Z]/g, '');
  return `${letters.slice(0, 5)}-${letters.slice(5)}`;
};

const CODE_LIFETIME = 120 * 24 * 3600 * 1000;

const newCode = () => ({ joinCode: joinCode(), joinCodeExpiresAt: new Date(Date.now() + CODE_LIFETIME) });

@Injectable()
export class Courses {
  constructor(
    private readonly databases: Databases,
    private readonly limits: Limits,
  ) {}

  async of(person: Person): Promise<CourseSummary[]> {
    const db = await this.databases.of('identity');
    return db.query(
      `SELECT c.id, c.name, c.time_zone AS "timeZone", m.role
         FROM membership m JOIN course c ON c.id = m.course_id
        WHERE m.person_id = $1 ORDER BY c.name, c.id`,
      [person.id],
    );
  }

  /** Whether a person may make courses: everybody, or administrators and those whom they have allowed. */
  async mayMake(person: Person): Promise<boolean> {
    const db = await this.databases.of('identity');
    const [found]: { may: boolean }[] = await db.query(
      `SELECT p.is_administrator OR p.may_make_courses
           OR (SELECT value FROM identity.setting WHERE name = 'course-makers') = 'anyone' AS may
         FROM identity.person p WHERE p.id = $1`,
      [person.id],
    );
    return found?.may ?? false;
  }

  async make(person: Person, name: string, timeZone: string): Promise<{ id: string }> {
    if (!(await this.mayMake(person)))
      throw new Problem(
        403,
        'may-not-make-courses',
        'On this server the administrator says who may make courses. Ask them to allow it to you.',
      );
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const course = await manager.save(CourseRecord, { name: name.trim(), timeZone, ...newCode() });
      await manager.insert(Membership, {
        courseId: course.id,
        personId: person.id,
        role: 'instructor',
        joinedBy: 'maker',
      });
      await note(manager, { person, courseId: course.id }, 'course made', course.name);
      return { id: course.id };
    });
  }

  async join(person: Person, code: string): Promise<{ id: string }> {
    const db = await this.databases.of('identity');
    await this.limits.check('join person', person.id);
    const course = await db.findOneBy(CourseRecord, {
      joinCode: asWritten(code),
      joinCodeExpiresAt: MoreThan(new Date()),
    });
    if (!course) {
      await this.limits.take('join person', person.id);
      throw new Problem(
        404,
        'no-such-code',
        'No course has this code, or it has expired. Compare it with what your instructor gave you.',
      );
    }
    const own = { courseId: course.id, personId: person.id };
    await db.transaction(async (manager) => {
      // Neither joined twice at the same moment, nor removed meanwhile.
      await lockFor(manager, `membership ${own.courseId} ${own.personId}`);
      if (await manager.existsBy(RemovedMember, own))
        throw new Problem(
          403,
          'was-removed',
          'You were removed from this course. Only an invitation of its instructor lets you in again.',
        );
      await join(manager, { ...own, role: 'student', joinedBy: 'code' });
    });
    return { id: course.id };
  }

  async renewCode(caller: Caller): Promise<void> {
    const db = await this.databases.of('identity');
    await db.transaction(async (manager) => {
      await manager.update(CourseRecord, { id: caller.courseId }, newCode());
      await note(manager, caller, 'code renewed');
      await announce(manager, { courseId: caller.courseId, to: 'staff', about: 'people' });
    });
  }

  /** @throws Problem 422 `other-name` where the name is not that of the course */
  async remove(caller: Caller, name: string): Promise<void> {
    const db = await this.databases.of('identity');
    await db.transaction(async (manager) => {
      const course = await manager.findOneByOrFail(CourseRecord, { id: caller.courseId });
      if (course.name !== name.trim())
        throw new Problem(
          422,
          'other-name',
          `The course is called “${course.name}”. Type its name to delete it.`,
          {
            field: 'name',
          },
        );
      await announce(manager, { courseId: caller.courseId, to: 'all', about: 'people' });
      await deleteCourse(manager, caller.courseId, caller.person);
    });
  }

  async detail(caller: Caller): Promise<CourseDetail> {
    const instructor = caller.role === 'instructor';
    // The connection of a student may not read the code.
    const course = await caller.db.findOneOrFail(CourseRecord, {
      where: { id: caller.courseId },
      select: { id: true, name: true, timeZone: true, joinCode: instructor, joinCodeExpiresAt: instructor },
    });
    return {
      id: course.id,
      name: course.name,
      timeZone: course.timeZone,
      role: caller.role,
      joinCode: instructor ? course.joinCode : null,
      joinCodeExpiresAt: instructor ? course.joinCodeExpiresAt.toISOString() : null,
      running: await this.running(caller),
    };
  }

  private async running(caller: Caller): Promise<number> {
    const waiting = `
      (SELECT count(*) FROM submission s JOIN exercise e ON e.id = s.exercise_id
        WHERE e.course_id = $1 AND ($2::uuid IS NULL OR s.person_id = $2)
          AND NOT EXISTS (SELECT 1 FROM receipt r WHERE r.submission_id = s.id))`;
    const staffOnly = `
      + (SELECT count(*) FROM import WHERE course_id = $1 AND state = 'waiting')
      + (SELECT count(*) FROM exercise WHERE course_id = $1 AND state = 'packing')`;
    const staff = isStaff(caller.role);
    const [row]: { running: number }[] = await caller.db.query(
      `SELECT (${waiting} ${staff ? staffOnly : ''})::int AS running`,
      [caller.courseId, staff ? null : caller.person.id],
    );
    return row?.running ?? 0;
  }
}
