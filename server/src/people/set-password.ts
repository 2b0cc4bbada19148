import type { EntityManager } from 'typeorm';
import { announceSessions } from '../platform/events/announce.js';
import { DeviceRecord, PersonRecord, SessionRecord, TokenRecord } from './person.entity.js';

/** Sets a password, and ends every session, token and known browser of the person. */
export async function setPassword(
  manager: EntityManager,
  personId: string,
  passwordHash: string,
): Promise<void> {
  await manager.update(PersonRecord, { id: personId }, { passwordHash });
  await endAccess(manager, personId);
}

/** Ends every session, token and known browser of a person. */
export async function endAccess(manager: EntityManager, personId: string): Promise<void> {
  await manager.delete(SessionRecord, { personId });
  await manager.delete(TokenRecord, { personId });
  await manager.delete(DeviceRecord, { personId });
  await announceSessions(manager, personId);
}
