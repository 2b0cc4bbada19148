// 2,000 submissions while workers are killed every 5 seconds and the database is restarted once.
import pg from 'pg';
import { fileOf, joined, releasedExercise, sendUntilTaken } from './people.mjs';
import { startProcess } from './program.mjs';

const STUDENTS = 50;
const FILES = 40;
const KILL_EVERY = 5000;

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));

export async function faultRun(database) {
  const web = await startProcess(database, 'web');
  const workers = [await startProcess(database, 'worker'), await startProcess(database, 'worker')];
  const at = await releasedExercise(web.address, 'faults', 600);
  const students = [];
  for (let i = 1; i <= STUDENTS; i++) students.push(await joined(web.address, at, 'faults', i));

  const start = performance.now();
  let over = false;
  let kills = 0;
  const killing = (async () => {
    while (!over) {
      await pause(KILL_EVERY);
      if (over) break;
      const victim = kills % workers.length;
      await workers[victim].kill('SIGKILL');
      kills++;
      workers[victim] = await startProcess(database, 'worker');
    }
  })();
  const acknowledged = new Set();
  const sending = students.map(async (student, s) => {
    for (let f = 0; f < FILES; f++) {
      acknowledged.add(
        await sendUntilTaken(student, at.path, fileOf(at.identifiers, s * FILES + f), `file ${f}`),
      );
    }
  });
  const restarting = (async () => {
    while (acknowledged.size < (STUDENTS * FILES) / 2) await pause(200);
    database.restart();
  })();
  await Promise.all([...sending, restarting]);
  const client = new pg.Client({ connectionString: database.url });
  await client.connect();
  const count = async () =>
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
  let figures = await count();
  for (let i = 0; i < 600 && figures.waiting > 0; i++) {
    await pause(500);
    figures = await count();
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
    seconds: Math.round((performance.now() - start) / 1000),
  };
}
