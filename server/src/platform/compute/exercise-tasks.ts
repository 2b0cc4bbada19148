import {
  makePack,
  markSubmission,
  metricNamed,
  type AnswerKey,
  type FoldAssignment,
  type MarkScheme,
  type Pack,
  type PredictionRules,
  type Result,
  type Roles,
  type SplitPlan,
} from '@modest-sieve/core';
import { tableOf, type StoredTable } from './stored-table.js';

/** Packs that are made, and files that are marked. */
export const EXERCISE_TASKS = {
  pack(request: {
    stored: StoredTable;
    roles: Roles;
    plan: SplitPlan;
    parts: Int8Array;
    folds: FoldAssignment | null;
    descriptions: Readonly<Record<string, string>>;
    metric: string;
    brief: string;
    feedbackShare: number;
    secretSeed: number;
  }): Pack {
    const { stored, metric, ...rest } = request;
    return makePack({
      ...rest,
      table: tableOf(stored),
      metric: metricNamed(metric),
    });
  },

  mark(request: {
    bytes: Uint8Array;
    file: string;
    rules: PredictionRules;
    key: AnswerKey;
    metric: string;
    scheme: MarkScheme;
    seed: number;
  }): Result {
    const { bytes, file, rules, key, ...marking } = request;
    return markSubmission(bytes, file, rules, key, marking);
  },
} as const;
