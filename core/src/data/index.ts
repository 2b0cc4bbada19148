// Tables: reading and writing them, their columns, what they are like, and how they are prepared.

// Files.
export { assignmentCsv, rowNames, type RowNames } from './formats/assignment.js';
export { CHUNK_ROWS, decodeColumn, encodeColumn } from './formats/chunk.js';
export { readCsv } from './formats/csv/read.js';
export { writeCsv, writeRecords, writeSpreadsheetCsv } from './formats/csv/write.js';
export { slugOf, writeDataPackage } from './formats/data-package.js';
export { formatOf, FORMATS, readTable, type Format } from './formats/format.js';
export type { ReadOptions, ReadTable } from './formats/read-table.js';

// Rows chosen by a formula.
export { chooseRows, type RowSelection } from './formula/chosen-rows.js';

// Preparation.
export { firstProblem, prepare, type StepEffect } from './prepare/prepare.js';
export {
  previewPreparation,
  type ExampleCell,
  type GivenColumn,
  type PreparePreview,
  type StepExamples,
} from './prepare/preview.js';
export { STEP_KINDS, stepKindOf } from './prepare/registry.js';
export type { Step, StepKind } from './prepare/step.js';

// What columns are like.
export {
  associationOf,
  correlations,
  orderByLikeness,
  type CorrelationMatrix,
} from './profile/correlations.js';
export type { Boxes } from './profile/boxes.js';
export { pairOf, type CrossTable, type Pair, type Points } from './profile/pair.js';
export { profileTable, profileTableWith, type ColumnProfile } from './profile/profile.js';
export { targetByValue, type TargetAtValue } from './profile/target-by-value.js';

// Plans as sentences.
export { begunPlan } from './sentence/begun.js';
export {
  fitsKind,
  type ChoiceParameter,
  type ColumnInfo,
  type NumberParameter,
  type Parameter,
  type PlanValue,
} from './sentence/parameter.js';
export { checkPlanned, newPlan, shownValues, type Plan, type SentenceKind } from './sentence/sentence.js';

// Tables and roles.
export { appendRows, COMBINATIONS, joinByKey, type Combination } from './table/combine.js';
export { labelsOf } from './table/labels.js';
export { sortLabels } from './table/order.js';
export {
  checkRoles,
  featuresOf,
  rolesAfter,
  suggestTask,
  TASKS,
  type Roles,
  type Task,
} from './table/roles.js';
export {
  cellText,
  cellTexts,
  columnNamed,
  isMissing,
  KIND_WORDS,
  selectRows,
  type Column,
  type ColumnKind,
  type Table,
} from './table/table.js';
