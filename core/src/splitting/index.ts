// Splits and folds: which row goes where.
export type { PartitionPlan, SplitPlan, Splitter } from './splits/splitter.js';
export { SPLIT_METHODS, SPLITTERS, splitterOf } from './splits/registry.js';
export { SPLIT_SETTINGS } from './splits/settings.js';
export { partition, type Partition } from './splits/partition.js';
export { splitRows, type SplitRows } from './splits/split.js';

export type { FoldPlan, Folds, FoldSentence } from './folds/fold-splitter.js';
export { FOLD_METHODS, FOLD_SPLITTERS, foldPlanOf, foldSplitterOf } from './folds/registry.js';
export { FOLD_SETTINGS } from './folds/settings.js';
export { makeFolds, testRows } from './folds/folds.js';
export { assignmentOf, foldCsv, type FoldAssignment } from './folds/fold-assignment.js';

export { methodFor, type Setting } from './setting.js';
export { PART_NAMES, type PartName } from './parts/part-names.js';
export { parseParts, rowsOfPart, type PartSize } from './parts/parts.js';
export { usableRows } from './parts/usable.js';
export { distinctRows, repeatedRowsOf, type RepeatedRows } from './parts/repeated-rows.js';
export { strataOf } from './algorithms/strata.js';
