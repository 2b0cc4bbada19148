// 300 students hand in 5,000 rows each within a minute, while pages are asked for.
import { fileOf, joined, releasedExercise } from './people.mjs';
import { startProcess } from './program.mjs';

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));
const quantile = (sorted, p) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * p))];

/** @param within time in which all hand in, in ms */
export async function loadRun(database, { students: count = 300, rows = 10_000, within = 60_000 } = {}) {
  const [web, worker] = [await startProcess(database, 'web'), await startProcess(database, 'worker')];
  const at = await releasedExercise(web.address, 'load', rows);
  const students = [];
  for (let i = 1; i <= count; i++) students.push(await joined(web.address, at, 'load', i));
  const files = Array.from({ length: 10 }, (_, salt) => fileOf(at.identifiers, salt));

  const pages = [];
  let over = false;
  const asking = (async () => {
    const paths = [at.path, `${at.path}/class`, `${at.course}/exercises`, at.course];
    for (let i = 0; !over; i++) {
      const start = performance.now();
      await at.instructor.call('GET', paths[i % paths.length]);
      pages.push(performance.now() - start);
      await pause(250);
    }
  })();
  const outcomes = { checked: 0, other: 0 };
  const waits = await Promise.all(
    students.map(async (student, i) => {
      await pause((i / count) * within);
      const start = performance.now();
      let { status, body } = await student.upload(
        `${at.path}/submissions?wait=60`,
        'mine.csv',
        files[i % files.length],
        { 'idempotency-key': 'one' },
      );
      while (status === 202) ({ status, body } = await student.call('GET', `${at.path}/receipts/${body.id}`));
      outcomes[body.outcome === 'checked' ? 'checked' : 'other']++;
      return performance.now() - start;
    }),
  );
  over = true;
  await asking;
  await Promise.all([web.kill('SIGTERM'), worker.kill('SIGTERM')]);
  waits.sort((a, b) => a - b);
  pages.sort((a, b) => a - b);
  return {
    students: count,
    within,
    rows: at.identifiers.length,
    ...outcomes,
    median: quantile(waits, 0.5),
    p95: quantile(waits, 0.95),
    slowest: waits.at(-1),
    pages: pages.length,
    pageMedian: quantile(pages, 0.5),
    slowestPage: pages.at(-1),
  };
}
