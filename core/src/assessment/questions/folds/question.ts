import type { QuestionHead, SentenceValues } from '../contract/answer.js';
import type { PredictionRules } from '../../files/rules.js';
import type { NamedRows } from '../assignments/key.js';

export interface FoldsQuestion extends QuestionHead {
  readonly kind: 'folds';
  readonly marks: number;
  readonly values: SentenceValues;
}

export interface FoldsRules extends NamedRows {
  readonly k: number;
  /** What the file's predictions must look like; null where none are asked for. */
  readonly predictions: PredictionRules | null;
  readonly metric: string | null;
  readonly says: string;
}
