import type { Check } from '@modest-sieve/core/foundation';
import type { PackFile, Result } from '@modest-sieve/core/assessment';
import type { FileRules, KeyAbout, QuestionSheet } from './exercises.js';

// What the HTTP API answers of drafts.

/** A draft as its students would get it; nothing of it is kept. */
export interface ExercisePreview {
  readonly sheets: readonly QuestionSheet[];
  readonly rules: readonly FileRules[];
  readonly files: readonly PackFile[];
  readonly audit: readonly Check[];
  readonly keys: readonly KeyAbout[];
}

/** What an answer to a question of a draft would come to; nothing of it is kept. */
export interface TriedAnswer {
  readonly result: Result;
}
