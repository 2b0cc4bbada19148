import { SieveError } from '@modest-sieve/core/foundation';
import { randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import type { OutputFile } from './command.js';

/** Largest file that is read, in bytes: a table of a million rows has a tenth of it. */
const LARGEST_INPUT = 2 ** 30;

const reasonOf = (error: unknown): string => {
  const code = error instanceof Error && 'code' in error ? error.code : undefined;
  switch (code) {
    case 'ENOENT':
      return 'there is no such file or folder';
    case 'EACCES':
    case 'EPERM':
      return 'you may not';
    case 'EISDIR':
      return 'it is a folder';
    case 'ENOTDIR':
    case 'EEXIST':
      return 'a file is in the way';
    case 'ENOSPC':
      return 'the disk is full';
    default:
      return error instanceof Error ? error.message : String(error);
  }
};

/** The bytes of a file, or of standard input for `-`. */
export async function readInput(path: string): Promise<Uint8Array> {
  if (path === '-') return new Uint8Array(await buffer(process.stdin));
  try {
    const { size } = await stat(path);
    if (size > LARGEST_INPUT)
      throw new SieveError(
        'too-large',
        `${path} has ${Math.round(size / 2 ** 20)} MB; at most 1,024 MB are read.`,
        {
          file: path,
        },
      );
    return await readFile(path);
  } catch (error) {
    if (error instanceof SieveError) throw error;
    throw new SieveError('no-file', `${path} cannot be read: ${reasonOf(error)}.`, { file: path });
  }
}

/**
 * Writes all files or none: each beside its place first, then all of them are moved there.
 *
 * @throws SieveError `output`
 */
export async function writeOutputs(files: readonly OutputFile[]): Promise<void> {
  const written: { readonly temporary: string; readonly path: string }[] = [];
  let current = '';
  try {
    for (const { path, content } of files) {
      current = path;
      await mkdir(dirname(path), { recursive: true });
      const temporary = join(dirname(path), `.${basename(path)}.${randomBytes(6).toString('hex')}`);
      written.push({ temporary, path });
      await writeFile(temporary, content, { flag: 'wx' });
    }
    for (const { temporary, path } of written) {
      current = path;
      await rename(temporary, path);
    }
  } catch (error) {
    await Promise.all(written.map(({ temporary }) => rm(temporary, { force: true })));
    throw new SieveError('output', `${current} cannot be written: ${reasonOf(error)}.`, { file: current });
  }
}
