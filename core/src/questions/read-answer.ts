import { limitsCheck } from '../check/file-limits.js';
import { NOBODY, type Who } from './kind.js';
import type { Answer, QuestionKindKey, Read } from './question.js';
import { questionKindOf } from './registry.js';
import { fileSizeOf, type Rules } from './rules.js';

/**
 * Reads an answer by its kind: in the browser before an attempt is spent, and on the server again. A file beyond the
 * limits of its question is not looked into.
 *
 * @param who left out where nothing that is the student's own is needed
 */
export function readAnswer(
  kind: QuestionKindKey,
  answer: Answer,
  rules: Rules,
  who: Who = NOBODY,
): Read<unknown> {
  const beyond = answer.file && limitsCheck(answer.file.bytes, answer.file.name, fileSizeOf(rules));
  return beyond
    ? { checks: [beyond], rows: null, content: null }
    : questionKindOf(kind).read(answer, rules, who);
}
