import { compareAnswers, type AnswerDifference, type QuestionKindKey } from '@modest-sieve/core/assessment';
import type { Schemas } from '../api/client.js';

/** A file that was handed in, with what was typed beside it. */
export interface HandedIn {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly fields: Readonly<Record<string, string>>;
}

export interface CompareRequest {
  readonly kind: QuestionKindKey;
  readonly rules: Schemas['Rules'];
  readonly before: HandedIn;
  readonly after: HandedIn;
}

const answerOf = ({ name, bytes, fields }: HandedIn) => ({ file: { name, bytes }, fields });

addEventListener('message', ({ data }: MessageEvent<CompareRequest>) => {
  const { kind, rules, before, after } = data;
  postMessage(
    compareAnswers(kind, rules, answerOf(before), answerOf(after)) satisfies AnswerDifference | null,
  );
});
