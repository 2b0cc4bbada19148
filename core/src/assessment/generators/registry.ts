import {
  autocorrelationBand,
  dummiesDrawn,
  fromCoefficients,
  normalPosterior,
  weightedError,
} from './applied-models.js';
import { kindIn, type Plan } from '../../data/sentence/sentence.js';
import { bayes, pruning, treeSplit } from './tree.js';
import { confusion } from './confusion.js';
import { confusionOfClasses } from './confusion-classes.js';
import { columnSummary } from './of-data/column-summary.js';
import { byGroup } from './of-data/by-group.js';
import { columnCounts } from './of-data/column-counts.js';
import { correlation, strongestCorrelation } from './of-data/correlation.js';
import { dummyColumns } from './of-data/dummy-columns.js';
import { ownFolds } from './of-data/own-folds.js';
import { ownSplit } from './of-data/own-split.js';
import { rowsLeft } from './of-data/rows-left.js';
import { tableCounts } from './of-data/table-counts.js';
import { targetByValue } from './of-data/target-by-value.js';
import { typedKey } from './of-data/typed-key.js';
import { bestSetting } from './of-models/best-setting.js';
import { coefficient, nonzero } from './of-models/coefficient.js';
import { fitFigures } from './of-models/fit-figures.js';
import { likelihood } from './of-models/likelihood.js';
import { modelScore } from './of-models/model-score.js';
import { oneCase } from './of-models/one-case.js';
import { inflation, residualFigures } from './of-models/residuals.js';
import { seededScore } from './of-models/seeded-score.js';
import { modelsAgree, subgroupScore } from './of-models/subgroup-score.js';
import { bestPenalty } from './of-models/best-penalty.js';
import { weightedScore } from './of-models/weighted-score.js';
import { treeShape } from './of-models/tree-shape.js';
import type { Generator } from './generator.js';
import { inference } from './inference.js';
import { agreement, numbers, probabilities } from './predictions.js';
import { foldCounts, foldScores, gridFits, settingsTable } from './resampling.js';
import { rocPoints } from './roc-points.js';
import { screenedColumn } from './screening.js';
import { listSummary, splitSizes } from './sizes.js';

/** Everything that a question of values can be about, in the order in which a menu has it. */
export const GENERATORS: readonly Generator[] = [
  confusion,
  confusionOfClasses,
  probabilities,
  numbers,
  rocPoints,
  agreement,
  splitSizes,
  listSummary,
  foldScores,
  foldCounts,
  settingsTable,
  gridFits,
  screenedColumn,
  treeSplit,
  pruning,
  bayes,
  inference,
  fromCoefficients,
  normalPosterior,
  weightedError,
  dummiesDrawn,
  autocorrelationBand,
  tableCounts,
  columnSummary,
  columnCounts,
  targetByValue,
  byGroup,
  correlation,
  strongestCorrelation,
  rowsLeft,
  dummyColumns,
  ownSplit,
  ownFolds,
  coefficient,
  nonzero,
  fitFigures,
  residualFigures,
  inflation,
  modelScore,
  subgroupScore,
  weightedScore,
  bestPenalty,
  modelsAgree,
  bestSetting,
  treeShape,
  oneCase,
  likelihood,
  seededScore,
  typedKey,
];

/** @throws SieveError `plan-kind` */
export const generatorOf = (plan: Pick<Plan, 'kind'>): Generator =>
  kindIn(GENERATORS, plan.kind, 'thing to be computed');
