import type { QuestionKindKey, Rules } from '../questions/question.js';

/** A question as it is kept for students: what they may know, and nothing else. */
export interface ReleasedQuestion {
  readonly id: string;
  readonly kind: QuestionKindKey;
  readonly title: string;
  readonly text: string;
  readonly marks: number;
  readonly rules: Rules;
  /** The file of the pack that is an example of what is handed in; null for none. */
  readonly example: string | null;
}
