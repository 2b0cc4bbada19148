import { randomInt } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { CourseDetail, CourseSummary, Member } from '../api.js';
import type { Caller, Person } from '../platform/access/access.js';
import { Databases } from '../platform/database/databases.js';
import { Problem } from '../platform/errors/problem.js';
import { announce } from '../platform/events/announce.js';
import { CourseRecord, Membership } from './course.entity.js';

/** Letters and digits that are not taken for one another; ten of them carry 49 bits. */
const CODE_ALPHABET = '23456789ABCDEFGHJKLMNPQRSTUVWXYZ';

const joinCode = () => {
  const letters = Array.from({ length: 10 }, () => CODE_ALPHABET[randomInt(CODE_ALPHABET.length)]).join('');
  return `${letters.slice(0, 5)}-${letters.slice(5)}`;
};

@Injectable()
export class Courses {
  constructor(private readonly databases: Databases) {}

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
      const course = await manager.save(CourseRecord, { name: name.trim(), timeZone, joinCode: joinCode() });
      await manager.insert(Membership, { courseId: course.id, personId: person.id, role: 'instructor' });
      return { id: course.id };
    });
  }

  async join(person: Person, code: string): Promise<{ id: string }> {
    const db = await this.databases.of('identity');
    const course = await db.findOneBy(CourseRecord, { joinCode: code.trim().toUpperCase() });
    if (!course)
      throw new Problem(
        404,
        'no-such-code',
        'No course has this code. Compare it with what your instructor gave you.',
      );
    await db.transaction(async (manager) => {
      await manager.query(
        `INSERT INTO membership (course_id, person_id, role) VALUES ($1, $2, 'student') ON CONFLICT DO NOTHING`,
        [course.id, person.id],
      );
      await announce(manager, { courseId: course.id, to: 'staff' });
    });
    return { id: course.id };
  }

  async detail(caller: Caller): Promise<CourseDetail> {
    const course = await caller.db.findOneByOrFail(CourseRecord, { id: caller.courseId });
    const staff = caller.role === 'instructor';
    return {
      id: course.id,
      name: course.name,
      timeZone: course.timeZone,
      role: caller.role,
      joinCode: staff ? course.joinCode : null,
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
    const staff = caller.role === 'instructor';
    const [row]: { running: number }[] = await caller.db.query(
      `SELECT (${waiting} ${staff ? staffOnly : ''})::int AS running`,
      [caller.courseId, staff ? null : caller.person.id],
    );
    return row?.running ?? 0;
  }

  people(caller: Caller): Promise<Member[]> {
    return caller.db.query(
      `SELECT p.id, p.name, p.email, m.role, m.joined_at AS "joinedAt"
         FROM membership m JOIN identity.person p ON p.id = m.person_id
        WHERE m.course_id = $1 ORDER BY m.role, p.name, p.id`,
      [caller.courseId],
    );
  }
}
