// Work that is measured within a process of its own: one task a run, seconds and peak memory as JSON on standard output.
import { Buffer } from 'node:buffer';
import { readFileSync } from 'node:fs';
import { bootstrapFigures, strataOfJudged } from '../../core/dist/metrics/bootstrap.js';
import {
  makeFolds,
  makePack,
  markSubmission,
  metricNamed,
  readCsv,
  seededRandom,
  splitRows,
  writeRecords,
} from '../../core/dist/index.js';

const [task, file] = process.argv.slice(2);
const table = file ? readCsv(new Uint8Array(readFileSync(file)), { file }).table : null;

const TASKS = {
  stratified: () => makeFolds(table, { method: 'stratified', k: 10, stratify: 'y', seed: 0 }),
  'stratified-grouped': () =>
    makeFolds(table, { method: 'stratified-grouped', k: 5, stratify: 'y', group: 'hive', seed: 0 }),
  area: () => bootstrap('roc_auc'),
  'average-precision': () => bootstrap('average_precision'),
  mark: () => markAll(500, 5000),
};

/** 10,000 rows with scores. */
function judged() {
  const random = seededRandom(3);
  const truth = Int32Array.from({ length: 10_000 }, () => (random.unit() < 0.3 ? 1 : 0));
  const scores = Float64Array.from(truth, (y) => Number((0.2 + 0.2 * y + random.unit() * 0.5).toFixed(6)));
  return {
    kind: 'labels',
    data: {
      labels: ['alive', 'lost'],
      positive: 1,
      truth,
      predicted: truth,
      probabilities: [scores.map((p) => 1 - p), scores],
      weights: null,
    },
  };
}

/** Draws of rows of each class; `intervalOf` would take DeLong's formula for the area. */
function bootstrap(key) {
  const data = judged();
  const options = { strata: strataOfJudged(data), groups: null, draws: 1000, seed: 0 };
  return bootstrapFigures(metricNamed(key), data, options);
}

function markAll(students, rows) {
  const random = seededRandom(4);
  const text = `id,x,y\n${Array.from({ length: 2 * rows }, (_, i) => `r${i},${random.unit().toFixed(4)},${random.unit() < 0.3 ? 'lost' : 'alive'}`).join('\n')}\n`;
  const { table: whole } = readCsv(Buffer.from(text), { file: 'mark.csv' });
  const roles = {
    target: 'y',
    task: 'binary',
    positive: 'lost',
    identifier: 'id',
    group: null,
    time: null,
    weight: null,
    withheld: [],
  };
  const plan = {
    kind: 'draw',
    values: { sized: 'percent', training: 50, validation: 0, heldout: 50, stratify: 'y', group: '', seed: 1 },
  };
  const { rules, key } = makePack({
    table: whole,
    roles,
    plan,
    parts: splitRows(whole, plan).parts,
    folds: null,
    descriptions: {},
    metric: metricNamed('roc_auc'),
    brief: '',
    feedbackShare: 50,
    secretSeed: 2,
  });
  const files = Array.from({ length: students }, () =>
    Buffer.from(
      writeRecords(
        ['id', 'probability'],
        rules.identifiers.map((id) => [id, random.unit().toFixed(4)]),
      ),
    ),
  );
  const scheme = { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10 };
  const start = performance.now();
  for (const bytes of files)
    markSubmission(bytes, 'file.csv', rules, key, { metric: 'roc_auc', scheme, seed: 1 });
  return (performance.now() - start) / 1000;
}

const start = performance.now();
const result = TASKS[task]();
const seconds = typeof result === 'number' ? result : (performance.now() - start) / 1000;
process.stdout.write(JSON.stringify({ seconds, peak: process.resourceUsage().maxRSS / 1024 }));
