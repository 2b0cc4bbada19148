// Families of models: fitting, predicting, describing.
export { densitiesOf, type FeatureDensity } from './bayes/densities.js';
export { bayesForm } from './bayes/predict.js';
export type {
  Coefficient,
  Growth,
  Importance,
  MemberShare,
  PathPoint,
  Removed,
} from './contract/description.js';
export type { Explanation } from './contract/explanation.js';
export type { ModelFamily } from './contract/family.js';
export { isOf, type ModelSize } from './contract/state.js';
export {
  fitModel,
  fittedOf,
  judgedBy,
  predictRows,
  readFitted,
  readyFor,
  sampleOf,
  weightsOf,
  writeFitted,
  type FitRequest,
  type Fitted,
} from './fitted.js';
export { sizeOf } from './predicted.js';
export { targetOf, targetRows } from './prepared/target.js';
export { BASELINES, MODEL_FAMILIES, modelFamiliesFor, modelFamilyOf, modelOf } from './registry.js';
export { type Screening } from './screening/keep.js';
export { SCREENS, type ScreenBy } from './screening/statistics.js';
export { modelFromSettings } from './settings.js';
export { modelLine } from './learners/typed.js';
export { importancesOf } from './importances.js';
export { branchText, rulesOf, type TreeRule } from './tree/rules.js';
export { treeForm } from './tree/form.js';
export { type TreeNode, type TreeState } from './tree/state.js';
