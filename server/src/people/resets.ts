import type { EntityManager } from 'typeorm';
import { note } from '../audit/note.js';
import type { Role } from '../platform/access/access.js';
import { announce } from '../platform/events/announce.js';
import { AccountEvent, PersonRecord } from './person.entity.js';

/**
 * Whether an instructor may have somebody set a new password: only of a person who is in no course but theirs, and who
 * neither teaches nor administers. It would be a way into every other course of the person.
 */
export async function mayReset(
  manager: EntityManager,
  instructorId: string,
  personId: string,
): Promise<boolean> {
  const person = await manager.findOneBy(PersonRecord, { id: personId });
  if (!person || person.isAdministrator || person.mayMakeCourses) return false;
  const memberships = await membershipsOf(manager, personId);
  const own = await membershipsOf(manager, instructorId);
  const taught = new Set(own.filter(({ role }) => role === 'instructor').map(({ courseId }) => courseId));
  return (
    memberships.length > 0 &&
    memberships.every(({ courseId, role }) => role !== 'instructor' && taught.has(courseId))
  );
}

/** Records what happened to the account for the person and in every course of theirs. */
export async function tellEveryCourse(
  manager: EntityManager,
  person: Pick<PersonRecord, 'id' | 'name'>,
  {
    action,
    by,
    text,
  }: {
    readonly action: 'link made' | 'password set by a link';
    /** Who did it; null for the administrator's command, which no course knows by name. */
    readonly by: string | null;
    readonly text: string;
  },
): Promise<void> {
  await manager.insert(AccountEvent, { personId: person.id, text });
  for (const { courseId } of await membershipsOf(manager, person.id)) {
    await note(
      manager,
      { courseId, person: { id: by ?? person.id } },
      action,
      person.name,
      by === null ? { by: 'the administrator of this server' } : {},
    );
    await announce(manager, { courseId, to: person.id, about: 'people' });
  }
}

const membershipsOf = (
  manager: EntityManager,
  personId: string,
): Promise<{ courseId: string; role: Role }[]> =>
  manager.query('SELECT course_id AS "courseId", role FROM membership WHERE person_id = $1', [personId]);
