import { check, fileSizeOf, sizeCheck, type QuestionKindKey } from '@modest-sieve/core';
import type { Schemas } from '../api/client.js';
import type { CheckAnswer, CheckRequest } from './check.worker.js';
import { inWorker } from './in-worker.js';

/** Checks a file before it is sent, off the page's thread, with the code that the server runs. */
export async function checkFile(
  file: File,
  kind: QuestionKindKey,
  rules: Schemas['Rules'],
): Promise<CheckAnswer> {
  // Not even read: a file this large would only fill the browser's memory.
  const tooLarge = sizeCheck(file.size, file.name, fileSizeOf(rules));
  if (tooLarge) return { checks: [tooLarge], rows: null, milliseconds: 0 };
  const worker = new Worker(new URL('./check.worker.ts', import.meta.url), { type: 'module' });
  try {
    return await inWorker<CheckAnswer>(worker, { file, kind, rules } satisfies CheckRequest);
  } catch {
    const unread = check(
      'readable',
      'fails',
      `${file.name} could not be read from your disk. Choose it again.`,
    );
    return { checks: [unread], rows: null, milliseconds: 0 };
  }
}
