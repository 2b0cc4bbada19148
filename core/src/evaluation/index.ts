// Trials of models, their diagnostics and their comparison.

// What columns do in a model.
export { dependenceOf, type Dependence, type DependenceAxis } from './columns/dependence.js';
export { permutationImportance, type PermutationImportance } from './columns/importance.js';

// Comparison of two.
export {
  compareLabels,
  compareNumbers,
  type LabelComparison,
  type NumberComparison,
} from './comparison/compare.js';
export { correctedResampledT, summariseFolds } from './comparison/over-folds.js';
export { pooled } from './comparison/pooled.js';

// Diagnostics of regressions.
export { diagnoseResiduals, type ResidualDiagnostics } from './diagnostics/diagnose.js';
export { influence } from './diagnostics/influence.js';
export { inflationSays, residualsSay } from './diagnostics/says.js';
export { varianceInflation } from './diagnostics/vif.js';

// Screening of columns.
export { screeningLeak, type ScreeningLeak } from './screening/inside-outside.js';
export { screenColumns, type ScreenedColumn } from './screening/screen.js';
export {
  selectFeatures,
  selectionFits,
  SELECTION_WAYS,
  type Selection,
  type SelectionStep,
  type SelectionWay,
} from './screening/selection.js';

// Search through settings.
export { drawSettings, type Setting } from './search/draw.js';
export { luckOf, type Luck } from './search/luck.js';
export { fitsOf, halvingRounds, settingsThatGoOn, type Round, type RoundScore } from './search/rounds.js';

// Trials.
export { against, type Against } from './trials/against.js';
export { compareArms, type Arm, type Emphasis } from './trials/arms.js';
export { compareFamilies, everyFamily, type FamilyRun, type SharedPlan } from './trials/every-family.js';
export { classEvidence, type ClassEvidence } from './trials/class-evidence.js';
export { evidenceOf, type Evidence } from './trials/evidence.js';
export {
  measureFold,
  measureSetting,
  predictFold,
  settleSettings,
  type FoldFigures,
  type MeasuredFold,
  type MeasuredSetting,
} from './trials/measure.js';
export {
  choosingMetrics,
  measuredMetrics,
  trialMetrics,
  usualMetrics,
  type Figures,
} from './trials/metrics.js';
export { predictOne, type OneCase } from './trials/one-case.js';
export {
  checkTrial,
  curveHyperparameter,
  MOST_MINUTES,
  MOST_SEARCHED,
  MOST_SETTINGS,
  settingsOf,
  TRAINING_SHARE,
  type SearchPlan,
  type TrialPlan,
  type Varied,
} from './trials/plan.js';
export { trialSays } from './trials/says.js';
export type { MetricSummary, SettingSummary } from './trials/setting-summary.js';
export { chooseAtFullSize, chooseSetting, summariseSetting, type Choice } from './trials/summary.js';
export { settingText } from './trials/wording.js';
