// npm test: everything that must hold, from a fresh clone on a fresh machine. Names of steps may follow, to run these alone.
import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { closeSync, mkdirSync, mkdtempSync, openSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadDemoCourse, startProgram } from './demo-course.mjs';
import {
  freePort,
  needModules,
  needPackages,
  ROOT,
  run,
  say,
  SetupError,
  startPostgres,
} from './machine.mjs';

const wanted = process.argv.slice(2);
let passed = 0;
let failed = 0;

function step(name, work) {
  if (wanted.length > 0 && !wanted.includes(name)) return;
  const start = Date.now();
  try {
    const counts = work();
    passed += counts.passed;
    failed += counts.failed;
    say(`${counts.failed === 0 ? 'ok' : 'NOT OK'}  ${name} (${Math.round((Date.now() - start) / 1000)} s)`);
  } catch (error) {
    failed++;
    say(`NOT OK  ${name}\n${error.message}`);
  }
}

/** A command that holds or does not. */
const holds = (command, args) => () => {
  run(command, args);
  return { passed: 1, failed: 0 };
};

/** Begins a command beside which others run; what is returned waits for its end and counts it. */
function begun(name, command, args) {
  if (wanted.length > 0 && !wanted.includes(name)) return () => undefined;
  const start = Date.now();
  const log = join(folder, `${name}.log`);
  const output = openSync(log, 'w');
  const child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', output, output] });
  const ended = new Promise((resolve) => child.on('close', resolve));
  return async () => {
    const holds = (await ended) === 0;
    closeSync(output);
    if (holds) passed++;
    else failed++;
    const seconds = Math.round((Date.now() - start) / 1000);
    say(holds ? `ok  ${name} (${seconds} s)` : `NOT OK  ${name}\n${readFileSync(log, 'utf8')}`);
  };
}

/** Tests of some workspaces; Jest's own report goes to the terminal. */
const jest = (projects, env, workers) => () => {
  const folder = mkdtempSync(join(tmpdir(), 'sieve-jest-'));
  const report = join(folder, 'report.json');
  const args = [
    '--experimental-vm-modules',
    '--disable-warning=ExperimentalWarning',
    join(ROOT, 'node_modules/jest/bin/jest.js'),
  ];
  args.push(
    '--selectProjects',
    ...projects,
    '--maxWorkers',
    String(workers),
    '--json',
    '--outputFile',
    report,
    '--workerGracefulExitTimeout',
    '10000',
  );
  spawnSync(process.execPath, args, {
    cwd: ROOT,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(
    readFileSync(report, 'utf8'),
  );
  rmSync(folder, { recursive: true });
  return { passed: numPassedTests, failed: numFailedTests + numRuntimeErrorTestSuites };
};

/** What is generated and committed must be what its sources give. */
function generatedFilesAreFresh() {
  const files = [
    'docs/api/openapi.json',
    'docs/api/exercise.schema.json',
    'web/src/api/schema.ts',
    'docs/steps.md',
    'docs/plans.md',
    'docs/models.md',
    'docs/questions.md',
    'docs/slips.md',
  ];
  const before = files.map((file) => readFileSync(join(ROOT, file), 'utf8'));
  run('npm', ['run', 'api']);
  const stale = files.filter((file, i) => readFileSync(join(ROOT, file), 'utf8') !== before[i]);
  if (stale.length > 0)
    throw new SetupError(
      `${stale.join(' and ')} did not fit the sources; they are made again now, commit them.`,
    );
  return { passed: 1, failed: 0 };
}

const secret = randomBytes(32).toString('hex');

async function startDatabase(name, copyOf = '') {
  const place = join(folder, name);
  mkdirSync(place, { recursive: true });
  return startPostgres({ folder: place, port: await freePort(), secret, lasting: false, copyOf });
}

/** Begins to load the demo course beside other steps; what is returned gives the database that holds it, stopped. */
async function demoBegun() {
  const database = await startDatabase('demo');
  databases.push(database);
  const program = startProgram({ database, secret, port: await freePort(), level: 'error' });
  programs.push(program);
  const ended = once(program.server, 'exit');
  await program.ready;
  const loading = loadDemoCourse(program, { whole: true });
  // Said once it is waited for.
  loading.catch(() => undefined);
  return async () => {
    try {
      await loading;
    } finally {
      program.server.kill('SIGTERM');
      await ended;
      await database.stopped();
    }
    return database;
  };
}

/** Files at once, each worker with a database of its own: the server's tests wait a third of their time, for jobs and clocks. */
const WORKERS = { server: 3, e2e: 2 };
const databases = [];
const programs = [];
const folder = mkdtempSync(join(tmpdir(), 'sieve-test-'));
try {
  // The Python libraries run the starters as students would; R is taken where it is installed.
  needPackages(['postgresql', 'chromium', 'python3-pandas', 'python3-sklearn']);
  needModules();
  // The server's threads and everything that runs whole programs take what is built, the types of the scripts too; what is fresh is not built again.
  if (wanted.length > 0 && wanted.some((name) => ['types', 'prove', 'bench', 'server', 'e2e'].includes(name)))
    wanted.push('build');
  step('build', holds('node', ['scripts/build.mjs']));
  step('api', generatedFilesAreFresh);
  const prove = begun('prove', 'node', ['scripts/prove.mjs', '--toy']);
  step('types', holds('npm', ['run', 'types']));
  step('lint', holds('npx', ['oxlint']));
  step('format', holds('npx', ['prettier', '--check', '--log-level', 'warn', '.']));
  step('unused', holds('npx', ['knip']));
  step(
    'dependencies',
    holds('npx', [
      'depcruise',
      '--config',
      'dependency-rules.mjs',
      'core',
      'cli',
      'server',
      'web',
      'demo',
      'e2e',
    ]),
  );
  step('bench', holds('node', ['scripts/bench.mjs', '--toy']));
  await prove();
  const wants = (name) => wanted.length === 0 || wanted.includes(name);
  const demo = wants('e2e') ? await demoBegun() : null;
  step('unit', jest(['core', 'cli', 'demo', 'web'], {}, 2));
  // Databases of its own for each step: the browser tests begin on the demo course.
  for (const project of Object.keys(WORKERS)) {
    if (!wants(project)) continue;
    const copyOf = project === 'e2e' && demo ? (await demo()).data : '';
    const own = await Promise.all(
      Array.from({ length: WORKERS[project] }, (_, i) => startDatabase(`${project}-${i}`, copyOf)),
    );
    databases.push(...own);
    const env = {
      SIEVE_TEST_DATABASES: JSON.stringify(own.map(({ url, bin, data, port }) => ({ url, bin, data, port }))),
      SIEVE_SECRET: secret,
      SIEVE_THREADS: '1',
      SIEVE_SECURE_COOKIES: 'false',
      SIEVE_LOG_LEVEL: 'error',
    };
    step(project, jest([project], env, WORKERS[project]));
  }
} catch (error) {
  failed++;
  console.error(error instanceof SetupError ? error.message : error);
} finally {
  for (const { server } of programs) server.kill('SIGTERM');
  for (const database of databases) database.stop();
  if (databases.length > 0) await new Promise((resolve) => setTimeout(resolve, 1000));
  for (const { data } of databases) rmSync(data, { recursive: true, force: true });
  rmSync(folder, { recursive: true, force: true });
}
say(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
