export * from './check/check.js';
export { type AnswerKey } from './check/judge.js';
export { checkPredictions, type CheckedPredictions } from './check/predictions.js';
export { largestFile, limitsCheck, sizeCheck } from './check/file-limits.js';
export { exampleHeader, type PredictionRules } from './check/rules.js';
export { SieveError, type Place } from './errors.js';
export { openTableLike } from './leaks/open-tables.js';
export { wearOf, type Wear } from './marking/wear.js';
export { compareAnswers, type AnswerDifference } from './exercise/compare.js';
export { makePack, refusalOf, withBrief, type Pack, type PackFile } from './exercise/pack.js';
export { completeDivision } from './exercise/division.js';
export type { ReservedRows } from './split/consequences.js';
export { FEEDBACK, FINAL } from './exercise/held-out.js';
export { matchRows } from './release/match-rows.js';
export type { EarlierRelease } from './release/compare-releases.js';
export { keyedRandom, PUBLIC_SECRET, SECRET_BYTES, type Secret } from './random/secret.js';
export { CHUNK_ROWS, decodeColumn, encodeColumn } from './formats/chunk.js';
export { readCsv } from './formats/csv/read.js';
export { writeCsv, writeRecords, writeSpreadsheetCsv } from './formats/csv/write.js';
export {
  disclose,
  shownAfter,
  marksOfAnswer,
  standingOf,
  type Adjustment,
  FEEDBACK_POLICIES,
  type Disclosed,
  type FeedbackPolicy,
} from './marking/disclose.js';
export { CHECKER_VERSION, markAnswer, type Result } from './marking/result.js';
export type { ScoredRows } from './marking/scored.js';
export { firstScheme, schemeFrom } from './marking/scheme.js';
export { markingMetrics } from './marking/metrics.js';
export { probingReaches, proposedAttempts } from './marking/probing.js';
export type { DisclosedScore } from './marking/disclose.js';
export { DRAW_KINDS, drawKindOf } from './draws/registry.js';
export { deal } from './draws/deal.js';
export type { Drawn } from './draws/draw.js';
export { TOLERANCE_KINDS, toleranceKindOf } from './draws/tolerance.js';
export { READINGS, readingOf } from './readings/registry.js';
export { QUESTION_KINDS, checkQuestions, questionKindOf } from './questions/registry.js';
export { SPLIT_SENTENCE } from './questions/split-sentence.js';
export { FOLDS_SENTENCE } from './questions/folds-sentence.js';
export { MODEL_SENTENCE } from './questions/model-sentence.js';
export { CURVE_SENTENCE } from './questions/curve.js';
export { CHOICE_SENTENCE } from './questions/choice.js';
export { filledText } from './questions/values.js';
export { checkFields } from './questions/fields.js';
export {
  latePercentOf,
  lateWords,
  marksLessLate,
  refusedAttempt,
  type AttemptPolicy,
} from './policy/attempts.js';
export { countingAnswer } from './policy/counting.js';
export { deadlineText } from './policy/deadline.js';
export { conditionLines, metricSentence, type BriefHead } from './exercise/brief.js';
export { fileSizeOf } from './questions/rules.js';
export { readAnswer } from './questions/read-answer.js';
export { givenColumns, NOBODY, type RunCurve, type Subject, type Who } from './questions/kind.js';
export {
  isScored,
  marksOf,
  type Answer,
  type Field,
  type FileAsked,
  type Judgement,
  type Question,
  type QuestionKindKey,
  type Scored,
  type Sheet,
  type Statement,
} from './questions/question.js';
export type { Keys, ModelKey, ModelRules, Rules } from './questions/rules.js';
export { columnField } from './questions/model-run.js';
export type {
  ModelPicture,
  ModelReport,
  ModelResult,
  ModelRun,
  RowsRun,
  DrawnNode,
} from './questions/model-run.js';
export type { KeyOf, ReleasedQuestion } from './exercise/pack.js';
export { readExercise, readKeys, writeExercise, writeKeys } from './exercise/exchange.js';
export { checkScheme, marksFor, type MarkScheme } from './marking/scheme.js';
export type { Interval } from './metrics/interval.js';
export type { Figure, LabelData, Metric } from './metrics/metric.js';
export { metricNamed, METRICS, metricsFor } from './metrics/registry.js';
export { count, counted } from './numbers.js';
export { profileTable, type ColumnProfile } from './profile/profile.js';
export { seededRandom, shuffle, type Random } from './random/random.js';
export { splitConsequences, type SplitConsequences } from './split/consequences.js';
export { LARGEST_SEED, PART_NAMES, type PartName } from './split/plan.js';
export { SPLIT_KINDS, splitKindOf, type SplitPlan } from './split/split-kinds.js';
export { splitRows, type SplitRows } from './split/split.js';
export { redrawn, splitRecord, type SplitDraw, type SplitRecord } from './split/record.js';
export { usableRows } from './split/usable.js';
export { labelsOf } from './table/labels.js';
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
export { makeFolds, testRows, type FoldPlan, type Folds } from './folds/folds.js';
export { FOLD_METHODS, type FoldMethodName } from './folds/fold-methods.js';
export { assignmentOf, foldCsv, type FoldAssignment } from './folds/fold-assignment.js';
export { foldConsequences, type FoldConsequences } from './folds/fold-consequences.js';
export { FOLD_KINDS, foldKindOf, foldPlanOf, type FoldSentence } from './folds/fold-kinds.js';
export { assignmentCsv, rowNames, type RowNames } from './formats/assignment.js';
export { FORMATS, formatOf, readTable, type Format } from './formats/format.js';
export { appendRows, COMBINATIONS, joinByKey, type Combination } from './table/combine.js';
export type { ReadOptions, ReadTable } from './formats/read-table.js';
export type { Leak } from './leaks/leak.js';
export { watchRepeats } from './leaks/rows.js';
export { watchEachColumn, watchLeaks } from './leaks/watch.js';
export {
  associationOf,
  correlations,
  orderByLikeness,
  type CorrelationMatrix,
} from './profile/correlations.js';
export { pairOf, type Boxes, type CrossTable, type Pair, type Points } from './profile/pair.js';
export { profileTableWith } from './profile/profile.js';
export { targetByValue, type TargetAtValue } from './profile/target-by-value.js';
export { qualityChecks } from './quality/checks.js';
export { splitQuality, type QualityOptions, type SplitQuality } from './quality/quality.js';
export { partition, type Partition, type PartitionPlan } from './split/partition.js';
export { PARTITION_METHODS, type PartitionMethodName } from './split/partition-methods.js';
export { parseParts, rowsOfPart, type PartSize } from './split/parts.js';
export {
  answerTask,
  type TaskAnswer,
  type TaskInput,
  type TaskName,
  type TaskOutput,
  type TaskRequest,
} from './work/tasks.js';
export type { Crew, Work } from './work/work.js';
export {
  compareLabels,
  compareNumbers,
  type LabelComparison,
  type NumberComparison,
} from './comparison/compare.js';
export { correctedResampledT, summariseFolds } from './comparison/over-folds.js';
export { pooled } from './comparison/pooled.js';
export { byClass } from './metrics/by-class.js';
export { calibrationTable } from './metrics/calibration.js';
export { confusionCounts } from './metrics/confusion.js';
export {
  bestThreshold,
  cheapestThreshold,
  gainCurve,
  precisionRecallCurve,
  rocCurve,
  thresholdTable,
} from './metrics/curves.js';
export { intervalOf } from './metrics/interval.js';
export { figureOf, type Judged } from './metrics/judged.js';
export { bySubgroup } from './metrics/subgroups.js';
export type { Predictions } from './check/reader.js';
export { strataOf } from './split/strata.js';
export { sortLabels } from './table/order.js';
export {
  fitsKind,
  type ChoiceParameter,
  type NumberParameter,
  type Kinded,
  type Parameter,
  type PlanValue,
} from './sentence/parameter.js';
export { firstProblem, prepare, type StepEffect } from './prepare/prepare.js';
export {
  previewPreparation,
  type ExampleCell,
  type GivenColumn,
  type PreparePreview,
  type StepExamples,
} from './prepare/preview.js';
export { STEP_KINDS, stepKindOf } from './prepare/registry.js';
export { begunPlan } from './sentence/begun.js';
export { checkPlanned, newPlan, shownValues, type Planned, type SentenceKind } from './sentence/sentence.js';
export type { Step, StepKind } from './prepare/step.js';
export { slugOf, writeDataPackage } from './formats/data-package.js';
export { findingsOf, type Finding, type Findings } from './leaks/findings.js';
export { chooseRows, type RowSelection } from './table/chosen-rows.js';
export { diagnoseResiduals, type ResidualDiagnostics } from './diagnostics/diagnose.js';
export { influence } from './diagnostics/influence.js';
export { varianceInflation } from './diagnostics/vif.js';
export type { Coefficient, PathPoint, Removed } from './models/description.js';
export {
  fitModel,
  judgedBy,
  predictRows,
  readFitted,
  weightsOf,
  writeFitted,
  type Fitted,
} from './models/fitted.js';
export { targetOf, targetRows } from './models/prepared/target.js';
export { BASELINES, MODEL_KINDS, modelKindOf, modelKindsFor, modelOf } from './models/registry.js';
export { modelFromSettings } from './models/settings.js';
export { sizeOf } from './models/size.js';
export { treeImportances } from './models/tree/importance.js';
export { branchText, rulesOf } from './models/tree/rules.js';
export { inflationSays, residualsSay } from './diagnostics/says.js';
export { measureFold, settleSettings, type FoldFigures } from './trial/measure.js';
export { trialMetrics, type Figures } from './trial/metrics.js';
export {
  checkTrial,
  curveAlong,
  settingsOf,
  TRAINING_SHARE,
  type TrialPlan,
  type Varied,
} from './trial/plan.js';
export { trialSays } from './trial/says.js';
export { settingText } from './trial/wording.js';
export {
  chooseAtFullSize,
  chooseSetting,
  summariseSetting,
  type Choice,
  type SettingSummary,
} from './trial/summary.js';
export { against, type Against } from './trial/against.js';
export { evidenceOf, type Evidence } from './trial/evidence.js';
export { predictFold } from './trial/measure.js';
export { predictOne, type OneCase } from './trial/one-case.js';
export { fittedOf, readyFor, sampleOf, type FitRequest } from './models/fitted.js';
export type { MeasuredFold } from './trial/measure.js';
export type { MetricSummary } from './trial/summary.js';
export { densitiesOf, type FeatureDensity } from './models/bayes/densities.js';
export type { ModelSize } from './models/size.js';
export type { TreeRule } from './models/tree/rules.js';
export type { TreeNode, TreeState } from './models/tree/state.js';
export type { ModelKind } from './models/model.js';
export type { ThresholdRow } from './metrics/curves.js';
export { STARTERS, starterForm, writeStarter, type StarterForm } from './starter/starter.js';
export { compareArms, type Arm, type Emphasis } from './trial/arms.js';
export { shortNumber } from './numbers.js';
