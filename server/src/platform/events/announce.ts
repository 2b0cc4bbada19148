import type { EntityManager } from 'typeorm';

export const CHANNEL = 'sieve_changes';

/** Something in a course changed. It names no contents: who hears it asks again, with their own rights. */
export interface Change {
  readonly courseId: string;
  /** Whom it concerns: everybody in the course, its staff, or one student. Staff hear everything. */
  readonly to: 'all' | 'staff' | (string & {});
}

/** Tells every web process, once the surrounding transaction is committed. */
export async function announce(manager: EntityManager, change: Change): Promise<void> {
  await manager.query('SELECT pg_notify($1, $2)', [CHANNEL, JSON.stringify(change)]);
}
