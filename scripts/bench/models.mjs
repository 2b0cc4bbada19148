// Predictions by submitted models, measured within a process of its own: a format, how many models, how many rows. Seconds
// and peak memory as JSON on standard output; reading the file counts, making it does not.
import { TextEncoder } from 'node:util';
import { seededRandom } from '../../core/dist/foundation/index.js';
import { fitModel, modelOf } from '../../core/dist/models/index.js';
import {
  columnsFor,
  fetchRuntime,
  readModel,
  writeOnnx,
  writePmml,
} from '../../core/dist/assessment/model-files/index.js';

const [format, modelsText, rowsText] = process.argv.slice(2);
const [models, rows] = [Number(modelsText), Number(rowsText)];
const COLUMNS = 20;
/** Rows that a tree is fitted to, so that its file has about half a megabyte (PMML takes more bytes for a node); terms of a table. */
const SIZE = { onnx: 30_000, pmml: 5_000, csv: 1_000 }[format] ?? 0;

const random = seededRandom(20261129);
const names = Array.from({ length: COLUMNS }, (_, c) => `x${c + 1}`);
const tableOf = (n) => ({
  rowCount: n,
  columns: names.map((name) => ({
    kind: /** @type {const} */ ('number'),
    name,
    values: Float64Array.from({ length: n }, () => random.unit()),
  })),
});

/** A deep tree of random classes, fitted to every row. */
function tree() {
  const table = tableOf(SIZE);
  return fitModel({
    table,
    model: modelOf('tree', { depth: 40, rows_per_leaf: 1, rows_per_split: 2 }),
    task: 'binary',
    targetName: 'y',
    group: null,
    target: {
      kind: 'classes',
      labels: ['no', 'yes'],
      codes: Int32Array.from({ length: SIZE }, () => random.below(2)),
      positive: 1,
    },
    features: names,
    rows: Int32Array.from({ length: SIZE }, (_, row) => row),
    weights: null,
    seed: 0,
  });
}

/** Products of two columns and powers, as many as are read. */
const terms = () =>
  Array.from(
    { length: SIZE },
    (_, i) =>
      `x${1 + (i % COLUMNS)}^${1 + Math.floor(i / COLUMNS / COLUMNS)}:x${1 + (Math.floor(i / COLUMNS) % COLUMNS)},${random.unit()}`,
  );

const bytes =
  format === 'onnx'
    ? writeOnnx(tree(), new Set())
    : new TextEncoder().encode(
        format === 'pmml' ? writePmml(tree(), new Set()) : `term,estimate\n${terms().join('\n')}\n`,
      );
const table = tableOf(rows);
// The runtime is fetched once for a process, as the server fetches it before it takes a model.
const before = performance.now();
await fetchRuntime();
const fetched = (performance.now() - before) / 1000;
const start = performance.now();
for (let i = 0; i < models; i++) {
  const model = readModel(bytes, `model.${format}`, { columns: names });
  await model.predict(table, columnsFor(model.inputs, names));
}
const seconds = (performance.now() - start) / 1000;
const { maxRSS } = process.resourceUsage();
process.stdout.write(JSON.stringify({ seconds, peak: maxRSS / 1024, bytes: bytes.length, fetched }));
