import { limitsCheck } from '../files/file-limits.js';
import { NOBODY, type Respondent } from '../generators/respondent.js';
import { fileSizeOf } from './file-size.js';
import type { QuestionKindKey, Rules } from './question.js';
import type { Answer, Read } from './contract/answer.js';
import type { SlipIn } from './contract/kind.js';
import { questionKindOf } from './registry.js';

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
  who: Respondent = NOBODY,
): Read<unknown> {
  const beyond = answer.file && limitsCheck(answer.file.bytes, answer.file.name, fileSizeOf(rules));
  return beyond
    ? { checks: [beyond], rows: null, content: null }
    : questionKindOf(kind).read(answer, rules, who);
}

/** The slips in an answer that fails its checks; a file beyond the limits is not looked into here either. */
export function unreadSlips(kind: QuestionKindKey, answer: Answer, rules: Rules): readonly SlipIn[] {
  const beyond = answer.file && limitsCheck(answer.file.bytes, answer.file.name, fileSizeOf(rules));
  return beyond ? [] : questionKindOf(kind).unreadSlips(answer, rules);
}
