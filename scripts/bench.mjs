// npm run bench: times and memory at growing sizes, beside pandas and scikit-learn where Debian's packages are installed.
// Its table goes to docs/benchmarks.md. Nothing here fails on a time. With --toy it runs once on small tables and writes nothing.
// A text may follow: only the work whose title holds it is measured, and takes its place among the rows that were measured before.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { needModules, ROOT, say } from './machine.mjs';

needModules();
const { build } = await import('./build.mjs');
build();
const { fittedTable, measuredTable, remarksTable, truthAndPredictions, wideTable } =
  await import('./bench/tables.mjs');
const { report } = await import('./bench/report.mjs');

const isToy = process.argv.includes('--toy');
const wanted = process.argv.slice(2).find((one) => !one.startsWith('--')) ?? '';
const SIZES = isToy ? [500] : [10_000, 100_000, 1_000_000];
const RUNS = isToy ? 1 : 3;
const MODELS = isToy ? 1 : 100;
/** Rows of work that is measured at one size. */
const rowsOf = (full) => (isToy ? full / 20 : full);
const PYTHON = '/usr/bin/python3';
const SIEVE = join(ROOT, 'cli/bin/sieve.js');

const hasGlmnet = !isToy && spawnSync('Rscript', ['-e', 'library(glmnet)']).status === 0;
const hasReference = !isToy && spawnSync(PYTHON, ['-c', 'import pandas, sklearn']).status === 0;

/** Seconds and peak memory of a whole process of Node. */
function node(args) {
  const start = performance.now();
  const { status, output, stderr } = spawnSync(
    process.execPath,
    ['--import', join(ROOT, 'scripts/bench/peak.mjs'), ...args],
    { stdio: ['ignore', 'ignore', 'pipe', 'pipe'], encoding: 'utf8', maxBuffer: 2 ** 28 },
  );
  if (status !== 0) throw new Error(stderr);
  return { seconds: (performance.now() - start) / 1000, peak: Number(output[3]) };
}

const sieve = (args) => node([SIEVE, ...args, '--json']);

/** Curves over folds in two threads. */
const trial = (name, size) => node([join(ROOT, 'scripts/bench/trials.mjs'), name, String(size)]);

/** R's glmnet as a whole process; its memory is not known. */
function glmnet() {
  const start = performance.now();
  const { status, stderr } = spawnSync('Rscript', [join(ROOT, 'scripts/bench/glmnet.R')], {
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(stderr);
  return { seconds: (performance.now() - start) / 1000, peak: null };
}

function timed(command, args) {
  const { status, stdout, stderr } = spawnSync(command, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout);
}
const models = (format, count, size) =>
  timed(process.execPath, [join(ROOT, 'scripts/bench/models.mjs'), format, String(count), String(size)]);
const own = (task, of) => timed(process.execPath, [join(ROOT, 'scripts/bench/tasks.mjs'), task, String(of)]);

/** The whole process of the reference counts where ours does. */
function reference(args, wholeProcess) {
  const start = performance.now();
  const { seconds, peak } = timed(PYTHON, [
    '-W',
    'ignore',
    join(ROOT, 'scripts/bench/reference.py'),
    ...args,
  ]);
  return { seconds: wholeProcess ? (performance.now() - start) / 1000 : seconds, peak };
}

const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];

/** The least and the most of the runs, after their median; nothing where there was one run. */
const spreadOf = (values) =>
  values.length < 2 ? '' : ` (${Math.min(...values).toFixed(2)}–${Math.max(...values).toFixed(2)})`;

/** Ours and the reference's in turn, so that a busy machine is busy for both; medians. */
function measured(title, size, ours, theirs, target) {
  if (!title.includes(wanted)) return null;
  const runs = Array.from({ length: RUNS }, () => ({
    ours: ours(),
    theirs: hasReference && theirs ? theirs() : null,
  }));
  const seconds = median(runs.map((r) => r.ours.seconds));
  const theirSeconds = hasReference && theirs ? median(runs.map((r) => r.theirs.seconds)) : null;
  const row = {
    title,
    size,
    seconds,
    spread: spreadOf(runs.map((r) => r.ours.seconds)),
    peak: Math.max(...runs.map((r) => r.ours.peak)),
    theirSeconds,
    theirSpread: theirSeconds === null ? '' : spreadOf(runs.map((r) => r.theirs.seconds)),
    theirPeak:
      theirSeconds === null || runs.some((r) => r.theirs.peak === null)
        ? null
        : Math.max(...runs.map((r) => r.theirs.peak)),
    target,
  };
  say(
    `${title}, ${size.toLocaleString('en')} rows: ${seconds.toFixed(2)} s, ${Math.round(row.peak)} MiB${theirSeconds === null ? '' : `; reference ${theirSeconds.toFixed(2)} s`}`,
  );
  return row;
}

const folder = mkdtempSync(join(tmpdir(), 'sieve-bench-'));
const rows = [];
try {
  for (const size of SIZES) {
    const tables = [
      { what: '18 columns of few digits, without gaps', path: await wideTable(folder, size) },
      { what: '18 columns with gaps and all lengths of numbers', path: await measuredTable(folder, size) },
      { what: '18 columns, two with quoted remarks', path: await remarksTable(folder, size) },
    ];
    const { truth, predictions } = await truthAndPredictions(folder, size);
    const last = size === SIZES.at(-1);
    const target = (ratio) => (last ? ratio : null);
    rows.push(
      ...tables.map(({ what, path }) =>
        measured(
          `read and profile ${what} (whole process)`,
          size,
          () => sieve(['profile', path]),
          () => reference(['profile', path], true),
          target(0.5),
        ),
      ),
      measured(
        'score predictions (whole process)',
        size,
        () => sieve(['score', '--truth', truth, '--pred', predictions, '--id', 'id', '--target', 'y']),
        () => reference(['score', truth, predictions], true),
        target(0.3),
      ),
      measured(
        'stratified 10 folds',
        size,
        () => own('stratified', truth),
        () => reference(['stratified', truth], false),
        target(0.3),
      ),
      measured(
        'stratified and grouped 5 folds',
        size,
        () => own('stratified-grouped', truth),
        () => reference(['stratified-grouped', truth], false),
        target(0.1),
      ),
    );
    for (const path of [...tables.map((table) => table.path), truth, predictions]) rmSync(path);
  }
  const fits = [
    { model: 'forest', what: '100 trees with out-of-bag error', full: 20_000, target: 1, settings: [] },
    { model: 'forest', what: '100 trees with out-of-bag error', full: 200_000, target: null, settings: [] },
    { model: 'boosting', what: '100 rounds', full: 20_000, target: 1.5, settings: [] },
    { model: 'boosting', what: '100 rounds', full: 200_000, target: null, settings: [] },
    { model: 'vector-machine', what: 'radial kernel', full: 5000, target: 3, settings: [] },
    {
      model: 'network',
      what: '20 units, 50 epochs',
      full: 20_000,
      target: 3,
      settings: ['--set', 'layers=20', '--set', 'epochs=50'],
    },
  ];
  for (const { model, what, full, target, settings } of fits) {
    const size = rowsOf(full);
    const path = await fittedTable(folder, size);
    rows.push(
      measured(
        `fit ${model}, ${what}, 20 columns (whole process)`,
        size,
        () => sieve(['fit', path, '--target', 'y', '--model', model, '--seed', '1', ...settings]),
        () => reference(['fit', model, path], true),
        target,
      ),
    );
    rmSync(path);
  }
  rows.push(
    measured(
      'depth curve of nine depths, 5 folds, 20 columns (whole process, two threads)',
      rowsOf(20_000),
      () => trial('depth', rowsOf(20_000)),
      () => reference(['depth'], true),
      0.2,
    ),
    measured(
      'lasso path of 100 penalties, 10 folds, 100 columns (whole process, two threads; R’s glmnet)',
      rowsOf(10_000),
      () => trial('lasso', rowsOf(10_000)),
      hasGlmnet ? glmnet : null,
      1,
    ),
    measured(
      '1,000 bootstrap draws of the area',
      rowsOf(10_000),
      () => own('area', rowsOf(10_000)),
      () => reference(['bootstrap'], false),
      0.2,
    ),
    measured(
      '1,000 bootstrap draws of average precision',
      rowsOf(10_000),
      () => own('average-precision', rowsOf(10_000)),
      null,
      null,
    ),
    ...['onnx', 'pmml', 'csv'].map((format) =>
      measured(
        `read and run ${MODELS} models as ${{ onnx: 'ONNX, a tree', pmml: 'PMML, a tree', csv: 'a table of 1,000 coefficients' }[format]} (scikit-learn: predict alone)`,
        rowsOf(10_000),
        () => models(format, MODELS, rowsOf(10_000)),
        () => reference([`predict-${format}`], false),
        null,
      ),
    ),
    measured(
      'mark 500 submissions',
      rowsOf(5000),
      () => own('mark', rowsOf(5000)),
      () => reference(['mark'], false),
      0.1,
    ),
    measured(
      '`sieve --version` (whole process; Node that does nothing)',
      0,
      () => node([SIEVE, '--version']),
      () => node(['-e', '0']),
      null,
    ),
  );
} finally {
  rmSync(folder, { recursive: true, force: true });
}

report(
  rows.filter((row) => row !== null),
  { isWhole: wanted === '', isWritten: !isToy, runs: RUNS, hasReference },
);
