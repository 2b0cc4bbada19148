import type { EntityManager } from 'typeorm';
import { note } from '../audit/note.js';
import type { Role } from '../platform/access/access.js';
import { announce, announceSessions } from '../platform/events/announce.js';
import { Membership } from './course.entity.js';
import { RemovedMember } from './invitation.entity.js';

/** Makes a person a member of a course, by their own act; a member gets the role of an invitation that they accept. */
export async function join(
  manager: EntityManager,
  { courseId, personId, role, joinedBy }: Pick<Membership, 'courseId' | 'personId' | 'role' | 'joinedBy'>,
): Promise<void> {
  const doer = { person: { id: personId }, courseId };
  const known = await manager.findOneBy(Membership, { courseId, personId });
  if (known && rank(known.role) >= rank(role)) return;
  await manager.delete(RemovedMember, { courseId, personId });
  if (known) await manager.update(Membership, { courseId, personId }, { role });
  else await manager.insert(Membership, { courseId, personId, role, joinedBy });
  await note(manager, doer, 'joined', '', { role, how: WORDS[joinedBy] });
  await announce(manager, { courseId, to: personId, about: 'people' });
  await announceSessions(manager, personId);
}

const RANKS: readonly Role[] = ['student', 'assistant', 'instructor'];
const rank = (role: Role) => RANKS.indexOf(role);

/** How somebody joined, for the activity log. */
const WORDS: Readonly<Record<Membership['joinedBy'], string>> = {
  code: 'join code',
  invitation: 'link of an invitation',
  address: 'invitation to the address of the account',
  maker: 'made the course',
};
