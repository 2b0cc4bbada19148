import { deleteIdle } from '../platform/files/idle.js';
import type { Upkeep } from '../platform/jobs/upkeep.js';

/** Deletes imported files and columns that no version holds any more. */
export const deleteIdleTables: Upkeep = (db) =>
  deleteIdle(db, [
    `DELETE FROM vault.file f
      WHERE NOT EXISTS (SELECT 1 FROM data_set_version v WHERE v.file_sha256 = f.sha256)
        AND NOT EXISTS (SELECT 1 FROM import i WHERE i.file_sha256 = f.sha256)`,
    `DELETE FROM vault.chunk c WHERE NOT EXISTS (SELECT 1 FROM vault.version_chunk v WHERE v.hash = c.hash)`,
  ]);
