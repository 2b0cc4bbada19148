import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { CHUNK_ROWS } from '@modest-sieve/core/data';
import type { EntityManager } from 'typeorm';
import type { StoredColumn, StoredTable } from './stored-table.js';
import { FILES_LOCK } from '../platform/files/files.js';
import { lockFor } from '../platform/database/lock.js';
import { VersionRecord } from './dataset.entity.js';

/** Level of compression: a version of a million rows waits for it, and higher levels save little. */
const FAST = 1;
/** Cells that are fetched at once. */
const MOST_CELLS = 4_000_000;

const compress = promisify(deflate);
const expand = promisify(inflate);

/** Keeps others from making a version of a data set until the transaction ends. */
export const lockVersions = (manager: EntityManager, dataSetId: string): Promise<void> =>
  lockFor(manager, `versions ${dataSetId}`);

/** The number of the next version of a data set. The caller keeps others from asking until it is stored. */
export async function nextVersion(manager: EntityManager, dataSetId: string): Promise<number> {
  await lockVersions(manager, dataSetId);
  return 1 + ((await manager.maximum(VersionRecord, 'number', { dataSetId })) ?? 0);
}

/** Keeps columns as compressed chunks under the hash of their contents; what versions share is kept once. */
export async function keepColumns(
  manager: EntityManager,
  versionId: string,
  columns: readonly StoredColumn[],
  kept: (done: number) => Promise<void>,
): Promise<void> {
  await lockFor(manager, FILES_LOCK, { shared: true });
  for (const [columnNumber, column] of columns.entries()) {
    for (const [chunkNumber, chunk] of column.chunks.entries()) {
      const hash = createHash('sha256').update(chunk).digest('hex');
      const bytes = await compress(chunk, { level: FAST });
      await manager.query('INSERT INTO vault.chunk (hash, bytes) VALUES ($1, $2) ON CONFLICT DO NOTHING', [
        hash,
        bytes,
      ]);
      await manager.query(
        'INSERT INTO vault.version_chunk (version_id, column_number, chunk_number, hash) VALUES ($1, $2, $3, $4)',
        [versionId, columnNumber, chunkNumber, hash],
      );
    }
    await kept(columnNumber + 1);
  }
}

/** Which part of a version is fetched; all of it where nothing is said. */
interface Wanted {
  readonly columns?: readonly string[];
  /** First row, and the row after the last. The chunks that hold them are fetched whole. */
  readonly rows?: readonly [number, number];
}

/** A version's columns as they are stored, for a worker thread to put together; no other chunks are read. */
export async function fetchColumns(
  manager: EntityManager,
  version: VersionRecord,
  { columns, rows: [from, to] = [0, version.rowCount] }: Wanted = {},
): Promise<StoredTable> {
  const numbers = version.profile.flatMap(({ name }, i) => (columns?.includes(name) === false ? [] : [i]));
  const [first, last] = [Math.floor(from / CHUNK_ROWS), Math.floor((to - 1) / CHUNK_ROWS)];
  const chunks = new Map(numbers.map((number) => [number, [] as Uint8Array[]]));
  // A few columns at a time: an answer of the database takes several times the memory of what it holds.
  const together = Math.max(1, Math.floor(MOST_CELLS / Math.max(1, to - from)));
  for (let i = 0; i < numbers.length; i += together) {
    const found: { column_number: number; bytes: Buffer }[] = await manager.query(
      `SELECT v.column_number, c.bytes FROM vault.version_chunk v JOIN vault.chunk c ON c.hash = v.hash
        WHERE v.version_id = $1 AND v.column_number = ANY ($2) AND v.chunk_number BETWEEN $3 AND $4
        ORDER BY v.column_number, v.chunk_number`,
      [version.id, numbers.slice(i, i + together), first, last],
    );
    for (const { column_number: number, bytes } of found) {
      const { buffer, byteOffset, byteLength } = await expand(bytes);
      // Small results lie in a buffer that others use, too.
      const isOwn = byteLength === buffer.byteLength;
      const chunk = new Uint8Array(buffer, byteOffset, byteLength);
      chunks.get(number)?.push(isOwn ? chunk : chunk.slice());
    }
  }
  const firstRow = first * CHUNK_ROWS;
  return {
    firstRow,
    rowCount: Math.max(0, Math.min(version.rowCount, (last + 1) * CHUNK_ROWS) - firstRow),
    columns: numbers.map((number) => ({
      name: version.profile[number]?.name ?? '',
      chunks: chunks.get(number) ?? [],
    })),
  };
}
