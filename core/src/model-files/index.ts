export { columnsFor, proposedColumns } from './columns.js';
export { writeOnnx } from './onnx/write-onnx.js';
export { writePmml } from './pmml/write-pmml.js';
export { readModel, type ReadingOptions } from './read-model.js';
export { fetchRuntime } from './onnx/onnx-file.js';
export { exampleTable } from './example-table.js';
export { runModel, type ModelRequest } from './run-model.js';
export type { ModelFile, ModelInput, ModelPredictions } from './model-file.js';
