import { createHash } from 'node:crypto';
import { groupedBy } from '@modest-sieve/core/foundation';
import type { EntityManager } from 'typeorm';
import { lockFor } from '../database/lock.js';

const PIECE = 1024 * 1024;

/** Held by everybody who keeps a file or a chunk, and alone by what deletes those that nobody needs. */
export const FILES_LOCK = 'files';

/** Where files are kept: students' submissions, or in the vault what instructors bring. */
export type FileShelf = 'public' | 'vault';

/** Keeps files as they came, in pieces of 1 MiB, under the SHA-256 of their contents; the same contents once. */
export async function keepFile(manager: EntityManager, shelf: FileShelf, bytes: Buffer): Promise<string> {
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  await lockFor(manager, FILES_LOCK, { shared: true });
  const stored: unknown[] = await manager.query(
    `INSERT INTO ${shelf}.file (sha256, size) VALUES ($1, $2) ON CONFLICT DO NOTHING RETURNING sha256`,
    [sha256, bytes.length],
  );
  for (let number = 0; stored.length > 0 && number * PIECE < bytes.length; number++) {
    await manager.query(`INSERT INTO ${shelf}.file_piece (sha256, number, bytes) VALUES ($1, $2, $3)`, [
      sha256,
      number,
      bytes.subarray(number * PIECE, (number + 1) * PIECE),
    ]);
  }
  return sha256;
}

/** The contents of a kept file. */
export async function fetchFile(manager: EntityManager, shelf: FileShelf, sha256: string): Promise<Buffer> {
  const pieces: { bytes: Buffer }[] = await manager.query(
    `SELECT bytes FROM ${shelf}.file_piece WHERE sha256 = $1 ORDER BY number`,
    [sha256],
  );
  return Buffer.concat(pieces.map((piece) => piece.bytes));
}

/**
 * The contents of kept files in the order that is given, with two queries however many they are: as many of the first
 * ones as together hold `mostBytes` at most.
 */
export async function fetchFiles(
  manager: EntityManager,
  shelf: FileShelf,
  sha256s: readonly string[],
  mostBytes: number,
): Promise<Uint8Array[]> {
  const known: { sha256: string; size: number }[] = await manager.query(
    `SELECT sha256, size::int FROM ${shelf}.file WHERE sha256 = ANY ($1)`,
    [[...new Set(sha256s)]],
  );
  const sizes = new Map(known.map(({ sha256, size }) => [sha256, size]));
  let bytes = 0;
  const end = sha256s.findIndex((sha256) => (bytes += sizes.get(sha256) ?? 0) > mostBytes);
  const wanted = end < 0 ? sha256s : sha256s.slice(0, end);
  const pieces: { sha256: string; bytes: Buffer }[] = await manager.query(
    `SELECT sha256, bytes FROM ${shelf}.file_piece WHERE sha256 = ANY ($1) ORDER BY sha256, number`,
    [[...new Set(wanted)]],
  );
  const found = groupedBy(pieces, ({ sha256 }) => sha256);
  return wanted.map(
    (sha256) => new Uint8Array(Buffer.concat((found.get(sha256) ?? []).map((piece) => piece.bytes))),
  );
}
