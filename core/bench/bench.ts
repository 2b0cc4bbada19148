import { cpus, totalmem } from 'node:os';
import {
  makePack,
  markSubmission,
  metricNamed,
  profileTable,
  readCsv,
  seededRandom,
  splitRows,
  writeRecords,
  type Roles,
  type SplitPlan,
} from '../src/index.js';

/** Times of the path's computations at growing sizes; nothing here fails on a time. */

const SIZES = [1_000, 10_000, 100_000];
const roles: Roles = {
  target: 'y',
  task: 'binary',
  positive: 'yes',
  identifier: 'id',
  group: null,
  withheld: [],
};
const plan: SplitPlan = {
  shares: { training: 60, validation: 0, heldout: 40 },
  stratify: 'y',
  group: null,
  seed: 1,
};

function timed<T>(work: () => T): { result: T; milliseconds: number } {
  const start = performance.now();
  const result = work();
  return { result, milliseconds: performance.now() - start };
}

function tableText(rows: number): string {
  const random = seededRandom(1);
  const header = ['id', 'group', ...Array.from({ length: 12 }, (_, i) => `x${i}`), 'y'];
  const records = Array.from({ length: rows }, (_, i) => [
    `r${i}`,
    `g${random.below(rows / 20)}`,
    ...Array.from({ length: 12 }, () => random.unit().toFixed(4)),
    random.unit() < 0.7 ? 'yes' : 'no',
  ]);
  return writeRecords(header, records);
}

console.log(
  `Node ${process.version}, ${cpus().length} × ${cpus()[0]?.model ?? 'unknown'}, ${Math.round(totalmem() / 2 ** 30)} GiB\n`,
);
console.log('rows      read   profile   stratified   grouped   pack   check and mark   (ms)   memory (MiB)');
for (const rows of SIZES) {
  const bytes = new TextEncoder().encode(tableText(rows));
  const read = timed(() => readCsv(bytes, { file: 'bench.csv' }).table);
  const profile = timed(() => profileTable(read.result));
  const stratified = timed(() => splitRows(read.result, plan));
  const grouped = timed(() => splitRows(read.result, { ...plan, group: 'group' }));
  const metric = metricNamed('roc_auc');
  const request = {
    table: read.result,
    roles,
    plan,
    parts: stratified.result,
    metric,
    brief: '',
    feedbackShare: 50,
    secretSeed: 2,
  };
  const pack = timed(() => makePack(request));
  const { rules, key } = pack.result;
  const random = seededRandom(3);
  const file = writeRecords(
    ['id', 'probability'],
    rules.identifiers.map((id) => [id, random.unit().toFixed(4)]),
  );
  const scheme = { nothing: 0.5, most: 0.8, all: 0.9, mostMarks: 8, marks: 10 };
  const submission = new TextEncoder().encode(file);
  const mark = timed(() =>
    markSubmission(submission, 'file.csv', rules, key, { metric: 'roc_auc', scheme, seed: 1 }),
  );
  const figures = [read, profile, stratified, grouped, pack, mark].map((t) =>
    t.milliseconds.toFixed(0).padStart(9),
  );
  console.log(
    `${String(rows).padEnd(8)}${figures.join('')}${String(Math.round(process.memoryUsage().rss / 2 ** 20)).padStart(16)}`,
  );
}
