export { columnsFor, proposedColumns } from './columns.js';
export { LARGEST_MODEL, readModel, type ReadingOptions } from './read-model.js';
export type { ModelFile, ModelInput, ModelPredictions } from './model-file.js';
