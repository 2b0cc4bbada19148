// What is wrong, or may be, with a table or a split.

// What follows from a plan.
export { foldConsequences, type FoldConsequences } from './consequences/fold-consequences.js';
export {
  redrawn,
  seedSensitivity,
  type SeedFigures,
  type SeedSensitivity,
} from './consequences/seed-sensitivity.js';
export {
  splitConsequences,
  type ReservedRows,
  type SplitConsequences,
} from './consequences/split-consequences.js';

// Leaks of a table.
export { findingsOf, type Finding, type Findings } from './leaks/findings.js';
export type { Leak } from './leaks/leak.js';
export { openTableLike } from './leaks/open-tables.js';
export { watchRepeats } from './leaks/rows.js';
export { watchEachColumn, watchLeaks } from './leaks/watch.js';

// Quality of a split.
export { qualityChecks } from './quality/checks.js';
export { splitQuality, type QualityOptions, type SplitQuality } from './quality/quality.js';
