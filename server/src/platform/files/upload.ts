import { readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { FileInterceptor } from '@nestjs/platform-express';
import multer from 'multer';
import { Problem } from '../errors/problem.js';

/** Takes the one file of a form, named `file`, to a temporary file of at most so many bytes. */
export const UploadedTo = (limit: number) =>
  FileInterceptor('file', {
    storage: multer.diskStorage({ destination: tmpdir() }),
    limits: { fileSize: limit, files: 1 },
  });

/** The contents of an uploaded file, whose temporary copy is removed. */
export async function uploadedBytes(
  file: Express.Multer.File | undefined,
): Promise<{ name: string; bytes: Buffer }> {
  if (!file)
    throw new Problem(400, 'no-file', 'The request carries no file. Send a form with one file named “file”.');
  const bytes = await readFile(file.path);
  await rm(file.path, { force: true });
  // Forms carry file names as bytes; multer reads them as Latin-1.
  return { name: Buffer.from(file.originalname, 'latin1').toString('utf8').slice(0, 200), bytes };
}

/** How the OpenAPI document describes a form with one file. */
export const FILE_FORM = {
  schema: {
    type: 'object',
    required: ['file'],
    properties: { file: { type: 'string', format: 'binary' } },
  },
};
