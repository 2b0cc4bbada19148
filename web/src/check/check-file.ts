import { check, sizeCheck, type QuestionKindKey } from '@modest-sieve/core';
import type { Schemas } from '../api/client.js';
import type { CheckAnswer, CheckRequest } from './check.worker.js';

/** Checks a file before it is sent, off the page's thread, with the code that the server runs. */
export function checkFile(file: File, kind: QuestionKindKey, rules: Schemas['Rules']): Promise<CheckAnswer> {
  // Not even read: a file this large would only fill the browser's memory.
  const tooLarge = sizeCheck(file.size, file.name, 'identifiers' in rules ? rules.identifiers.length : 0);
  if (tooLarge) return Promise.resolve({ checks: [tooLarge], rows: null, milliseconds: 0 });
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./check.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = (event: MessageEvent<CheckAnswer>) => {
      worker.terminate();
      resolve(event.data);
    };
    worker.onerror = () => {
      worker.terminate();
      const unread = check(
        'readable',
        'fails',
        `${file.name} could not be read from your disk. Choose it again.`,
      );
      resolve({ checks: [unread], rows: null, milliseconds: 0 });
    };
    worker.onmessageerror = () => reject(new Error('the check answered in an unknown form'));
    worker.postMessage({ file, kind, rules } satisfies CheckRequest);
  });
}
