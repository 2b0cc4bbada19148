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
import { CourseRecord, Membership } from './course.entity.js';

/** Letters and digits that are not taken for one another; ten of them carry 49 bits. */
const CODE_ALPHABET = '23456789ABCDEFGHJKLMNPQRSTUVWXYZ';

const joinCode = () => {
  const letters = Array.from({ length: 10 }, () => CODE_ALPHABET[randomInt(CODE_ALPHABET.length)]).join('');
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

  async make(person: Person, name: string, timeZone: string): Promise<{ id: string }> {
    const db = await this.databases.of('identity');
    return db.transaction(async (manager) => {
      const course = await manager.save(CourseRecord, { name: name.trim(), timeZone, ...newCode() });
      await manager.insert(Membership, { courseId: course.id, personId: person.id, role: 'instructor' });
      await note(manager, { person, courseId: course.id }, 'course made', course.name);
      return { id: course.id };
    });
  }

  async join(person: Person, code: string): Promise<{ id: string }> {
    const db = await this.databases.of('identity');
    await this.limits.check('join person', person.id);
    const course = await db.findOneBy(CourseRecord, {
      joinCode: code.trim().toUpperCase(),
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
    await db.transaction(async (manager) => {
      const joined: unknown[] = await manager.query(
        `INSERT INTO membership (course_id, person_id, role) VALUES ($1, $2, 'student') ON CONFLICT DO NOTHING RETURNING 1`,
        [course.id, person.id],
      );
      if (joined.length === 0) return;
      await note(manager, { person, courseId: course.id }, 'joined');
      await announce(manager, { courseId: course.id, to: 'staff' });
    });
    return { id: course.id };
  }

  async renewCode(caller: Caller): Promise<void> {
    const db = await this.databases.of('identity');
    await db.transaction(async (manager) => {
      await manager.update(CourseRecord, { id: caller.courseId }, newCode());
      await note(manager, caller, 'code renewed');
      await announce(manager, { courseId: caller.courseId, to: 'staff' });
    });
  }

  async detail(caller: Caller): Promise<CourseDetail> {
    const course = await caller.db.findOneByOrFail(CourseRecord, { id: caller.courseId });
    const instructor = caller.role === 'instructor';
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
