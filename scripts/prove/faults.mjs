// 2,000 submissions while workers are killed every 5 seconds and the database is restarted once.
import pg from 'pg';
import { fileOf, joined, releasedExercise, sendUntilTaken } from './people.mjs';
import { startProcess } from './program.mjs';

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));

/** @param killEvery time between two ends of a worker, in ms */
export async function faultRun(
  database,
  { students: count = 50, files = 40, killEvery = 5000, restarts = true } = {},
) {
  const web = await startProcess(database, 'web');
  const workers = [await startProcess(database, 'worker'), await startProcess(database, 'worker')];
  const at = await releasedExercise(web.address, 'faults', 600);
  const students = [];
  for (let i = 1; i <= count; i++) students.push(await joined(web.address, at, 'faults', i));

  const start = performance.now();
  let over = false;
  let kills = 0;
  const killing = (async () => {
    while (!over) {
      for (let waited = 0; waited < killEvery && !over; waited += 100) await pause(100);
      if (over) break;
      const victim = kills % workers.length;
      await workers[victim].kill('SIGKILL');
      kills++;
      workers[victim] = await startProcess(database, 'worker');
    }
  })();
  const acknowledged = new Set();
  const sending = students.map(async (student, s) => {
    for (let f = 0; f < files; f++) {
      acknowledged.add(
        await sendUntilTaken(student, at.path, fileOf(at.identifiers, s * files + f), `file ${f}`),
      );
    }
  });
  const restarting = (async () => {
    while (acknowledged.size < (count * files) / 2) await pause(200);
    if (restarts) database.restart();
  })();
  await Promise.all([...sending, restarting]);
  const client = new pg.Client({ connectionString: database.url });
  await client.connect();
  const counts = async () =>
    (
      await client.query(
        `SELECT count(*)::int AS submissions,
                count(*) FILTER (WHERE receipts = 1 AND outcome = 'checked')::int AS checked,
                count(*) FILTER (WHERE receipts = 0)::int AS waiting,
                count(*) FILTER (WHERE outcome = 'failed')::int AS failed,
                count(*) FILTER (WHERE results > 1 OR receipts > 1)::int AS doubled
           FROM (SELECT s.id, (SELECT count(*) FROM receipt r WHERE r.submission_id = s.id) AS receipts,
                        (SELECT min(outcome) FROM receipt r WHERE r.submission_id = s.id) AS outcome,
                        (SELECT count(*) FROM vault.result v WHERE v.submission_id = s.id) AS results
                   FROM submission s JOIN exercise e ON e.id = s.exercise_id JOIN course c ON c.id = e.course_id
                  WHERE c.name = 'faults') t`,
      )
    ).rows[0];
  let figures = await counts();
  for (let i = 0; i < 600 && figures.waiting > 0; i++) {
    await pause(500);
    figures = await counts();
  }
  over = true;
  await killing;
  const {
    rows: [{ found }],
  } = await client.query('SELECT count(*)::int AS found FROM submission WHERE id = ANY ($1)', [
    [...acknowledged],
  ]);
  await client.end();
  await Promise.all([web, ...workers].map((process) => process.kill('SIGTERM')));
  return {
    acknowledged: acknowledged.size,
    lost: acknowledged.size - found,
    ...figures,
    kills,
    students: count,
    killEvery,
    seconds: Math.round((performance.now() - start) / 1000),
  };
}
