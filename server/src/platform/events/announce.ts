import type { EntityManager } from 'typeorm';
import type { ChangeEvent } from '../../api/api.js';

export const CHANNEL = 'sieve_changes';

export type Topic = ChangeEvent['about'];

/** Something in a course changed. It names no contents: who hears it asks again, with their own rights. */
export interface Change {
  readonly courseId: string;
  /** Whom it concerns: everybody in the course, its staff, or one student. Staff hear everything. */
  readonly to: 'all' | 'staff' | (string & {});
  /** What kind of thing changed, so that pages ask again for what it concerns alone. */
  readonly about: Topic;
}

/** The sessions of a person that were there have ended, or their rights have changed: streams are looked at again. */
export interface SessionsEnded {
  readonly personId: string;
}

/** Notifies every web process that a person's sessions or rights have changed. */
export async function announceSessions(manager: EntityManager, personId: string): Promise<void> {
  const ended: SessionsEnded = { personId };
  await manager.query('SELECT pg_notify($1, $2)', [CHANNEL, JSON.stringify(ended)]);
}

/** Notifies every web process, once the surrounding transaction is committed. */
export async function announce(manager: EntityManager, change: Change): Promise<void> {
  await manager.query('SELECT pg_notify($1, $2)', [CHANNEL, JSON.stringify(change)]);
}
