import type { EntityManager } from 'typeorm';
import { FILES_LOCK } from './files.js';

/** Deletes files in a transaction in which none is being kept, which may be one of these; not at all while one is. */
export const deleteIdle = (db: EntityManager, statements: readonly string[]): Promise<void> =>
  db.transaction(async (manager) => {
    const [lock]: { free: boolean }[] = await manager.query(
      'SELECT pg_try_advisory_xact_lock(hashtextextended($1, 0)) AS free',
      [FILES_LOCK],
    );
    if (lock?.free !== true) return;
    for (const statement of statements) await manager.query(statement);
  });
