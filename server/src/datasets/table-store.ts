import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { decodeColumn, type Table } from '@modest-sieve/core';
import type { EntityManager } from 'typeorm';
import type { StoredColumn, StoredTable } from '../platform/compute/tasks.js';
import { VersionRecord } from './dataset.entity.js';

const compress = promisify(deflate);
const expand = promisify(inflate);

/** Keeps columns as compressed chunks under the hash of their contents; what versions share is kept once. */
export async function keepColumns(
  manager: EntityManager,
  versionId: string,
  columns: readonly StoredColumn[],
): Promise<void> {
  for (const [columnNumber, column] of columns.entries()) {
    for (const [chunkNumber, chunk] of column.chunks.entries()) {
      const hash = createHash('sha256').update(chunk).digest('hex');
      const bytes = await compress(chunk);
      await manager.query('INSERT INTO vault.chunk (hash, bytes) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
        hash,
        bytes,
      ]);
      await manager.query(
        'INSERT INTO vault.version_chunk (version_id, column_number, chunk_number, hash) VALUES ($1, $2, $3, $4)',
        [versionId, columnNumber, chunkNumber, hash],
      );
    }
  }
}

/** A version's columns as they are stored, for a worker thread to put together; no others are read. */
export async function fetchColumns(manager: EntityManager, version: VersionRecord): Promise<StoredTable> {
  const found: { column_number: number; bytes: Buffer }[] = await manager.query(
    `SELECT v.column_number, c.bytes FROM vault.version_chunk v JOIN vault.chunk c ON c.hash = v.hash
      WHERE v.version_id = $1 ORDER BY v.column_number, v.chunk_number`,
    [version.id],
  );
  const columns = version.profile.map(({ name }) => ({ name, chunks: [] as Uint8Array[] }));
  for (const { column_number: number, bytes } of found) {
    columns[number]?.chunks.push(new Uint8Array(await expand(bytes)));
  }
  return { rowCount: version.rowCount, columns };
}

/** A version's table, put together in this process. */
export async function fetchTable(manager: EntityManager, version: VersionRecord): Promise<Table> {
  const { rowCount, columns } = await fetchColumns(manager, version);
  return { rowCount, columns: columns.map((column) => decodeColumn(column.name, column.chunks)) };
}
