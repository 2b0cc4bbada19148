// Work that is measured within a process of its own: one task a run, seconds and peak memory as JSON on standard output.
import { Buffer } from 'node:buffer';
import { readFileSync } from 'node:fs';
import { bootstrapFigures, strataOfJudged } from '../../core/dist/metrics/intervals/bootstrap.js';
import { PUBLIC_SECRET, seededRandom } from '../../core/dist/foundation/index.js';
import { readCsv, writeRecords } from '../../core/dist/data/index.js';
import { makeFolds, splitRows } from '../../core/dist/splitting/index.js';
import { metricNamed } from '../../core/dist/metrics/index.js';
import { makePack, markAnswer } from '../../core/dist/assessment/index.js';

// What follows the task is a table, or how many rows are made.
const [task, of] = process.argv.slice(2);
const rows = Number(of);
const table = Number.isNaN(rows) ? readCsv(new Uint8Array(readFileSync(of)), { file: of }).table : null;

const TASKS = {
  stratified: () => makeFolds(table, { method: 'stratified', k: 10, stratify: 'y', seed: 0 }),
  'stratified-grouped': () =>
    makeFolds(table, { method: 'stratified-grouped', k: 5, stratify: 'y', group: 'hive', seed: 0 }),
  area: () => bootstrap('roc_auc'),
  'average-precision': () => bootstrap('average_precision'),
  mark: () => markAll(500),
};

/** Rows with scores. */
function judged() {
  const random = seededRandom(3);
  const truth = Int32Array.from({ length: rows }, () => (random.unit() < 0.3 ? 1 : 0));
  const scores = Float64Array.from(truth, (y) => Number((0.2 + 0.2 * y + random.unit() * 0.5).toFixed(6)));
  return {
    kind: /** @type {const} */ ('labels'),
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

function markAll(students) {
  const random = seededRandom(4);
  const text = `id,x,y\n${Array.from({ length: 2 * rows }, (_, i) => `r${i},${random.unit().toFixed(4)},${random.unit() < 0.3 ? 'lost' : 'alive'}`).join('\n')}\n`;
  const { table: whole } = readCsv(Buffer.from(text), { file: 'mark.csv' });
  const roles = {
    target: 'y',
    task: /** @type {const} */ ('binary'),
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
  const question = {
    id: 'q1',
    kind: /** @type {const} */ ('predictions'),
    title: 'Predict y',
    text: '',
    metric: 'roc_auc',
    scheme: { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10, doubt: true },
  };
  const { questions, keys } = makePack({
    table: whole,
    roles,
    plan,
    parts: splitRows(whole, plan).parts,
    folds: null,
    curves: {},
    references: [],
    descriptions: {},
    questions: [question],
    title: 'Predict y',
    brief: '',
    conditions: [],
    reissued: false,
    reserve: new Uint8Array(whole.rowCount),
    earlier: [],
    secret: PUBLIC_SECRET,
  });
  const [{ rules }] = questions;
  const { key } = keys.q1;
  const { classes } = /** @type {{ classes: Int32Array }} */ (key);
  // Most files tell something, some much, and every fourth nothing.
  const files = Array.from({ length: students }, (_, student) => {
    const told = (student % 4) * 0.2;
    const chance = (/** @type {number} */ row) =>
      ((classes[row] ?? 0) * told + random.unit() * (1 - told)).toFixed(4);
    return Buffer.from(
      writeRecords(
        ['id', 'probability'],
        ('identifiers' in rules ? rules.identifiers : []).map((id, row) => [id, chance(row)]),
      ),
    );
  });
  const who = { secret: PUBLIC_SECRET, question: 'q1', id: '' };
  const start = performance.now();
  for (const bytes of files) {
    const answer = { file: { name: 'file.csv', bytes }, fields: {} };
    const { marks } = markAnswer(question, answer, rules, key, { who, stepped: false, before: null });
    if (marks === null) throw new Error('A file was not marked.');
  }
  return (performance.now() - start) / 1000;
}

const start = performance.now();
const result = TASKS[task]();
const seconds = typeof result === 'number' ? result : (performance.now() - start) / 1000;
process.stdout.write(JSON.stringify({ seconds, peak: process.resourceUsage().maxRSS / 1024 }));
