import { check } from '@modest-sieve/core/foundation';
import {
  fileSizeOf,
  sizeCheck,
  type AnswerDifference,
  type QuestionKindKey,
} from '@modest-sieve/core/assessment';
import type { Schemas } from '../api/client.js';
import type { CheckAnswer, CheckRequest, CompareRequest } from './check.worker.js';
import { inWorker, TookTooLong } from './in-worker.js';
import type { ModelCheckRequest } from './model.worker.js';

/** Milliseconds for which a model may load and run here; on the server it has as long for all rows. */
const LONGEST = 20_000;

const tooLong = (name: string) =>
  check(
    'limits',
    'fails',
    `${name} was ended: it took longer than ${LONGEST / 1000} seconds for a few rows.`,
  );

const answerWorker = () => new Worker(new URL('./check.worker.ts', import.meta.url), { type: 'module' });

/** What two answers to a question differ in, found off the page's thread; null where that cannot be said. */
export const compareFiles = (request: CompareRequest): Promise<AnswerDifference | null> =>
  inWorker(answerWorker(), request);

/** Checks a file before it is sent, off the page's thread, with the code that the server runs. */
export async function checkFile(
  file: File,
  kind: QuestionKindKey,
  rules: Schemas['Rules'],
  fields: Readonly<Record<string, string>>,
): Promise<CheckAnswer> {
  // Not even read: a file this large would only fill the browser's memory.
  const tooLarge = sizeCheck(file.size, file.name, fileSizeOf(rules));
  if (tooLarge) return { checks: [tooLarge], rows: null, milliseconds: 0 };
  try {
    if ('takes' in rules) {
      // What reads and runs models is large: it is fetched with the first of them.
      const worker = new Worker(new URL('./model.worker.ts', import.meta.url), { type: 'module' });
      return await inWorker<CheckAnswer>(
        worker,
        { file, rules, fields } satisfies ModelCheckRequest,
        LONGEST,
      );
    }
    return await inWorker<CheckAnswer>(answerWorker(), { file, kind, rules } satisfies CheckRequest);
  } catch (error) {
    if (error instanceof TookTooLong)
      return { checks: [tooLong(file.name)], rows: null, milliseconds: LONGEST };
    const unread = check(
      'readable',
      'fails',
      'takes' in rules
        ? `${file.name} could not be read or run in your browser. Choose it again, or save the model in another format.`
        : `${file.name} could not be read from your disk. Choose it again.`,
    );
    return { checks: [unread], rows: null, milliseconds: 0 };
  }
}
