import type { QuestionHead, SentenceValues } from '../contract/answer.js';
/** A statement with its truth, or one of the library, whose truth follows from what is drawn. */
export type Statement = { readonly text: string; readonly truth: boolean } | { readonly reading: string };

export interface ChoiceQuestion extends QuestionHead {
  readonly kind: 'choice';
  readonly marks: number;
  readonly values: SentenceValues;
  readonly statements: readonly Statement[];
}

export interface ChoiceRules {
  readonly manner: 'one' | 'each';
  /** Texts, or keys of the library, whose texts are drawn. */
  readonly statements: readonly ({ readonly text: string } | { readonly reading: string })[];
}

export interface ChoiceKey {
  /** For each statement, whether it holds; null where that is drawn. */
  readonly truths: readonly (boolean | null)[];
}
