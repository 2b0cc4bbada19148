// Curves over folds, measured in two threads as a whole process: `depth` or `lasso`, on so many rows.
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { seededRandom } from '../../core/dist/foundation/index.js';
import { makeFolds, testRows } from '../../core/dist/splitting/index.js';
import { fitModel, modelOf, targetOf } from '../../core/dist/models/index.js';
import { measureFold, settleSettings } from '../../core/dist/evaluation/index.js';

const THREADS = 2;
const CASES = {
  depth: {
    features: 20,
    folds: 5,
    task: 'binary',
    model: 'tree',
    vary: { key: 'depth', settings: [1, 2, 3, 5, 8, 12, 16, 20, 30] },
  },
  lasso: {
    features: 100,
    folds: 10,
    task: 'regression',
    model: 'lasso',
    vary: { key: 'penalty', settings: [] },
  },
};

/** Columns of independent numbers, of which ten make the target with as much noise. */
function tableOf({ rows, features, task }) {
  const random = seededRandom(5);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random.unit())) * Math.cos(2 * Math.PI * random.unit());
  const columns = Array.from({ length: features }, (_, c) => ({
    kind: /** @type {const} */ ('number'),
    name: `x${c}`,
    values: Float64Array.from({ length: rows }, normal),
  }));
  const sum = (row) =>
    columns
      .slice(0, 10)
      .reduce((total, { values }, c) => total + values[row] * ((c % 3) - 0.7), 2 * normal());
  const values = Float64Array.from({ length: rows }, (_, row) =>
    task === 'binary' ? Number(sum(row) > 0) : sum(row),
  );
  return {
    rowCount: rows,
    columns: [...columns, { kind: /** @type {const} */ ('number'), name: 'y', values }],
  };
}

function requestOf(chosen) {
  const table = tableOf(chosen);
  const { task, model, features } = chosen;
  return {
    table,
    model: modelOf(model),
    task,
    targetName: 'y',
    group: null,
    target: targetOf(table, { target: 'y', task, positive: task === 'binary' ? '1' : null }),
    features: Array.from({ length: features }, (_, c) => `x${c}`),
    rows: Int32Array.from({ length: table.rowCount }, (_, row) => row),
    weights: null,
    seed: 0,
  };
}

const { name, rows } = isMainThread ? { name: process.argv[2], rows: Number(process.argv[3]) } : workerData;
const chosen = { ...CASES[name], rows };
const request = requestOf(chosen);
const [settled] = settleSettings(request, { vary: [chosen.vary] });
const folds = makeFolds(request.table, { method: 'k-fold', k: chosen.folds, seed: 0 });
const measure = (first) => {
  for (let fold = first; fold < chosen.folds; fold += THREADS)
    measureFold({
      ...request,
      training: folds.training(0, fold),
      test: testRows(folds, 0, fold),
      vary: [settled],
    });
};
if (isMainThread) {
  const others = Array.from({ length: THREADS - 1 }, (_, i) => {
    const worker = new Worker(new URL(import.meta.url), { workerData: { name, rows, first: i + 1 } });
    return new Promise((resolve, reject) => {
      worker.once('message', resolve);
      worker.once('error', reject);
    });
  });
  measure(0);
  await Promise.all(others);
  // The chosen setting is fitted to all rows, as a trial does in the end.
  fitModel({ ...request, model: modelOf(chosen.model, { [settled.key]: settled.settings[4] }) });
} else {
  measure(workerData.first);
  parentPort.postMessage('done');
}
