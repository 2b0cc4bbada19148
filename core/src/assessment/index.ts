// Exercises: questions, their keys, checks, marks, packs and what students see.

// Submitted files.
export { largestFile, limitsCheck, sizeCheck } from './files/file-limits.js';
export type { AnswerKey } from './files/judge.js';
export { checkPredictions, type CheckedPredictions } from './files/predictions.js';
export type { Predictions } from './files/reader.js';
export { exampleHeader, type PredictionRules } from './files/rules.js';

// Generated variants.
export { generate } from './generators/generate.js';
export { asksNames, type GeneratedItem } from './generators/generator.js';
export { generatorOf, GENERATORS } from './generators/registry.js';
export { NOBODY, type Respondent } from './generators/respondent.js';
export { TOLERANCE_KINDS, toleranceKindOf } from './generators/tolerance.js';

// A class.
export { rightForAnother, type TypedAnswer, type TypedLikeness } from './likeness/typed-for-another.js';
export { likenessOf, type AnswerOf, type Likeness } from './likeness/likeness.js';
export { nearlySameFiles } from './likeness/nearly-same-files.js';
export { answerEvidence, type AnswerEvidence } from './class/answer-evidence.js';
export { classOnRows, type ClassRows } from './class/class-rows.js';
export {
  checkGradePlan,
  gradeTotal,
  PLAIN_PLAN,
  type GradeCategory,
  type Graded,
  type GradePlan,
  type GradeTotal,
} from './class/totals.js';
export { oneRosterZip, type RosterGrades } from './class/one-roster.js';
export { optionsChosen, type ChosenBy, type OptionChosen } from './class/options-chosen.js';
export { itemAnalysis, type ItemAnalysis } from './class/item-analysis.js';

// Marks.
export { markingMetrics } from './marking/metrics.js';
export { probingReaches, proposedAttempts } from './marking/probing.js';
export { checkScheme, firstScheme, marksFor, schemeFrom, type MarkScheme } from './marking/scheme.js';
export type { FurtherScore } from './marking/further-score.js';
export type { ScoredRows } from './marking/scored.js';
export { wearOf, type Wear } from './marking/wear.js';

// Results, and what students see of them.
export { disclose, type Disclosed, type DisclosedScore } from './disclosure/disclose.js';
export { isVerdictOn, withVerdicts, type SlipVerdict } from './disclosure/slips-that-hold.js';
export { marksOfAnswer, standingOf, type Adjustment } from './disclosure/marks-of-answer.js';
export { CHECKER_VERSION, markAnswer, type Result } from './disclosure/result.js';

// What keys are computed from.
export { FEEDBACK, FINAL } from './material/held-out.js';
export { runCurveOf, type RunCurve } from './material/run-curve.js';

// Attempts and deadlines.
export {
  latePercentOf,
  lateWords,
  marksLessLate,
  refusedAttempt,
  type AttemptPolicy,
} from './policy/attempts.js';
export { countingAnswer } from './policy/counting.js';
export { deadlineText } from './policy/deadline.js';
export { FEEDBACK_POLICIES, SLIP_POLICIES, type FeedbackPolicy, type SlipPolicy } from './policy/feedback.js';

// Packs.
export { conditionLines, metricSentence, type BriefHead } from './packs/brief.js';
export { compareAnswers, type AnswerDifference } from './packs/compare.js';
export { completeDivision } from './packs/division.js';
export { readExercise, readKeys, writeExercise, writeKeys } from './packs/exchange.js';
export { heldOutIn } from './packs/held-out-file.js';
export { makePack, refusalOf, withBrief, type KeyOf, type Pack, type PackFile } from './packs/pack.js';
export type { ReleasedQuestion } from './packs/released-question.js';

// Questions.
export { fileSizeOf } from './questions/file-size.js';
export { CHOICE_SENTENCE } from './questions/choice/sentence.js';
export type { Statement } from './questions/choice/question.js';
export type { Answer, Field, FileAsked, Judgement, Scored } from './questions/contract/answer.js';
export { BETWEEN_VALUES, checkFields, NONE } from './questions/contract/fields.js';
export { givenColumns, type Right, type Subject } from './questions/contract/kind.js';
export {
  columnField,
  type DrawnNode,
  type ModelPicture,
  type ModelReport,
  type ModelResult,
  type ModelRun,
  type RowsRun,
} from './questions/contract/model-run.js';
export {
  askable,
  checkFurther,
  FURTHER_KINDS,
  furtherKindOf,
  furtherMetric,
  furtherTitle,
  MOST_FURTHER,
  newFurther,
  type FurtherFigure,
} from './questions/scored/further.js';
export { checkSamples } from './questions/values/samples.js';
export { CURVE_SENTENCE } from './questions/curve/sentence.js';
export { FOLDS_SENTENCE } from './questions/folds/folds-sentence.js';
export { MODEL_SENTENCE } from './questions/model/model-sentence.js';
export type { ModelKey, ModelRules } from './questions/model/question.js';
export {
  marksOf,
  type Keys,
  type Question,
  type QuestionKindKey,
  type Rules,
  type Sheet,
} from './questions/question.js';
export { readAnswer } from './questions/read-answer.js';
export { checkQuestions, QUESTION_KINDS, questionKindOf, readQuestion } from './questions/registry.js';
export { SPLIT_SENTENCE } from './questions/split/split-sentence.js';
export { filledText, keyWords } from './questions/values/values.js';

// Earlier releases.
export type { EarlierRelease } from './releases/compare-releases.js';
export { matchRows } from './releases/match-rows.js';

// Starter code.
export { starterForm, STARTERS, writeStarter, type StarterForm } from './starter/starter.js';

// Library of statements.
export { LIBRARY_STATEMENTS, libraryStatementOf } from './statements/registry.js';
export type { FoundSlip, Slip } from './slips/contract/slip.js';
export { SLIPS_BY_KIND, slipOf } from './slips/registry.js';
export type { DisclosedSlip } from './disclosure/disclosed-slips.js';
export { toldSlips, type ToldSlip } from './questions/values/told-slips.js';
