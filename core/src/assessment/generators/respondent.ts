import { PUBLIC_SECRET, type Secret } from '../../foundation/random/secret.js';

/** For whom a question's variant is generated. */
export interface Respondent {
  /** Of the exercise. */
  readonly secret: Secret;
  /** Identifier of the question, so that two questions of one kind give different variants. */
  readonly question: string;
  /** Identifier of the student. */
  readonly id: string;
}

/** For file checks, which know nobody's variant. */
export const NOBODY: Respondent = { secret: PUBLIC_SECRET, question: '', id: '' };
