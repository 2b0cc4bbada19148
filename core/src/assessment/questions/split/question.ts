import type { QuestionHead, SentenceValues } from '../contract/answer.js';
import type { NamedRows } from '../assignments/key.js';

export interface SplitQuestion extends QuestionHead {
  readonly kind: 'split';
  readonly marks: number;
  readonly values: SentenceValues;
}

export interface SplitRules extends NamedRows {
  readonly parts: readonly string[];
  readonly says: string;
}
