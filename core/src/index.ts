export * from './check/check.js';
export { type AnswerKey } from './check/judge.js';
export { checkPredictions, sizeCheck, type CheckedPredictions } from './check/predictions.js';
export { exampleHeader, LARGEST_PREDICTIONS, type PredictionRules } from './check/rules.js';
export { SieveError, type Place } from './errors.js';
export { makePack, type Pack, type PackFile } from './exercise/pack.js';
export { CHUNK_ROWS, decodeColumn, encodeColumn } from './formats/chunk.js';
export { readCsv } from './formats/csv/read.js';
export { writeCsv, writeRecords, writeSpreadsheetCsv } from './formats/csv/write.js';
export {
  disclose,
  FEEDBACK_POLICIES,
  feedbackShare,
  type Disclosed,
  type FeedbackPolicy,
} from './marking/disclose.js';
export { CHECKER_VERSION, markSubmission, type Result, type ScoredRows } from './marking/result.js';
export { checkScheme, marksFor, type MarkScheme } from './marking/scheme.js';
export type { Interval } from './metrics/interval.js';
export type { Figure, Metric } from './metrics/metric.js';
export { metricNamed, METRICS, metricsFor } from './metrics/registry.js';
export { count, counted } from './numbers.js';
export { profileTable, type ColumnProfile } from './profile/profile.js';
export { seededRandom, shuffle, type Random } from './random/random.js';
export { splitConsequences, type SplitConsequences } from './split/consequences.js';
export {
  checkPlan,
  LARGEST_SEED,
  methodOf,
  PART_NAMES,
  type PartName,
  type SplitPlan,
} from './split/plan.js';
export { rowsOfPart, splitRows } from './split/split.js';
export { usableRows } from './split/usable.js';
export { labelsOf } from './table/labels.js';
export { checkRoles, suggestTask, TASKS, type Roles, type Task } from './table/roles.js';
export { cellText, columnNamed, selectRows, type Column, type Table } from './table/table.js';
