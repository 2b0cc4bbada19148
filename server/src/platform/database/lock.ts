import type { EntityManager } from 'typeorm';

/**
 * Waits for a lock that ends with the surrounding transaction. Holders of a shared lock go on together and keep out
 * the one that wants it alone. The database roles that hold it need no right to change a row.
 */
export async function lockFor(
  manager: EntityManager,
  name: string,
  { shared = false }: { shared?: boolean } = {},
): Promise<void> {
  const call = shared ? 'pg_advisory_xact_lock_shared' : 'pg_advisory_xact_lock';
  await manager.query(`SELECT ${call}(hashtextextended($1, 0))`, [name]);
}
