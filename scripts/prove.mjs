// npm run prove: the claims about a deadline evening at full size. Its figures go to docs/evidence.md.
import { writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { join } from 'node:path';
import { needModules, needPackages, ROOT, run, say } from './machine.mjs';

needPackages(['postgresql']);
needModules();
const { build } = await import('./build.mjs');
build();
const { startDatabase } = await import('./prove/program.mjs');
const { faultRun } = await import('./prove/faults.mjs');
const { loadRun } = await import('./prove/load.mjs');

const database = await startDatabase();
try {
  say('Load: 300 students hand in within a minute …');
  const load = await loadRun(database);
  say(JSON.stringify(load));
  say('Faults: 2,000 submissions, workers killed every 5 s, one restart of the database …');
  const faults = await faultRun(database);
  say(JSON.stringify(faults));
  const seconds = (milliseconds) => `${(milliseconds / 1000).toFixed(2)} s`;
  const text = `# Evidence

Written by \`npm run prove\` on ${new Date().toISOString().slice(0, 10)}, on ${cpus().length} × ${cpus()[0]?.model ?? 'unknown'}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.version}; client, program and PostgreSQL on the same machine.

## Fault run

${faults.acknowledged} files handed in by 50 students, each sent until it was acknowledged, with one web process and two workers; one of the workers killed (SIGKILL) every 5 s and
started again, and the database stopped at once and started again when half of the files were in.

| figure | |
| --- | --- |
| submissions acknowledged | ${faults.acknowledged} |
| of these in the database | ${faults.acknowledged - faults.lost} |
| lost | ${faults.lost} |
| checked exactly once | ${faults.checked} |
| with more than one result or receipt | ${faults.doubled} |
| whose receipt says that the check failed | ${faults.failed} |
| still waiting at the end | ${faults.waiting} |
| workers killed | ${faults.kills} |
| time | ${faults.seconds} s |

## Load run

${load.students} students hand in ${load.rows} rows each, spread evenly over a minute, with one web process and one worker; meanwhile an instructor asks for four pages in turn.

| figure | |
| --- | --- |
| files checked | ${load.checked} of ${load.students} |
| hand-in to receipt, median | ${seconds(load.median)} |
| hand-in to receipt, 95th percentile | ${seconds(load.p95)} |
| hand-in to receipt, slowest | ${seconds(load.slowest)} |
| answers to pages asked for meanwhile | ${load.pages}, median ${seconds(load.pageMedian)} |
| slowest of these | ${seconds(load.slowestPage)} |
`;
  writeFileSync(join(ROOT, 'docs/evidence.md'), text);
  run('npx', ['prettier', '--write', 'docs/evidence.md']);
  const holds =
    faults.lost === 0 && faults.doubled === 0 && faults.waiting === 0 && load.checked === load.students;
  say(
    holds
      ? 'Everything holds; docs/evidence.md has the figures.'
      : 'Something does not hold: see docs/evidence.md.',
  );
  process.exitCode = holds ? 0 : 1;
} finally {
  await database.end();
}
