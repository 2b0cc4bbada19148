import type { FoldSentence, SplitPlan } from '@modest-sieve/core/splitting';
import type { FoldConsequences, SplitConsequences, SeedSensitivity } from '@modest-sieve/core/audit';
import type { RemovalInfo } from './removal.js';

// What the HTTP API takes and answers of splits and folds.

export interface SplitInfo {
  readonly id: string;
  /** Empty for one that has none. */
  readonly name: string;
  readonly removal: RemovalInfo;
  readonly method: string;
  readonly plan: SplitPlan;
  readonly consequences: SplitConsequences;
  readonly createdAt: string;
}

/** How a plan's figures vary over twenty draws. */
export type SplitDraws = SeedSensitivity;

/** Folds that are to be made: of the training rows of a split, or of all rows that take part. */
export interface FoldRequest {
  readonly plan: FoldSentence;
  readonly splitId: string | null;
}

export type FoldAnswer = FoldConsequences;

/** Folds that are kept. */
export interface FoldSetInfo {
  readonly id: string;
  /** Empty for one that has none. */
  readonly name: string;
  readonly removal: RemovalInfo;
  readonly method: string;
  readonly plan: FoldSentence;
  readonly splitId: string | null;
  readonly folds: number;
  readonly repeats: number;
  readonly rows: number;
  readonly createdAt: string;
}
