// The built program in processes of its own, on a PostgreSQL of its own, for the runs of `npm run prove`.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, plugIn, pullPlug, ROOT, run, startPostgres } from '../machine.mjs';

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds));

export async function startDatabase() {
  const folder = mkdtempSync(join(tmpdir(), 'sieve-prove-'));
  const database = await startPostgres({ folder, port: await freePort(), secret: 'prove'.repeat(8) });
  return {
    ...database,
    /** As a pulled plug stops it, and starts it again. */
    restart: () => {
      pullPlug(database);
      plugIn(database);
    },
    end: async () => {
      database.stop();
      await pause(2000);
      rmSync(database.data, { recursive: true, force: true });
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

function letEverybodyMakeCourses({ url }) {
  run(process.execPath, [join(ROOT, 'server/dist/administer.js'), 'course-makers', 'anyone'], {
    env: { ...process.env, SIEVE_DATABASE_URL: url, SIEVE_SECRET: 'prove'.repeat(8) },
  });
}

/** A process of one role, ready to work. */
export async function startProcess(database, role) {
  const [port, watch] = [await freePort(), await freePort()];
  const child = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
    env: {
      ...process.env,
      SIEVE_DATABASE_URL: database.url,
      SIEVE_SECRET: 'prove'.repeat(8),
      SIEVE_ROLE: role,
      SIEVE_PORT: String(port),
      SIEVE_OPERATION_PORT: String(watch),
      SIEVE_LOG_LEVEL: 'fatal',
      SIEVE_SECURE_COOKIES: 'false',
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  // A run that fails leaves nothing behind.
  const end = () => child.kill('SIGKILL');
  process.once('exit', end);
  const ended = once(child, 'exit').finally(() => process.off('exit', end));
  for (let i = 0; i < 600; i++) {
    const ready = await fetch(`http://127.0.0.1:${watch}/ready`).then(
      (response) => response.ok,
      () => false,
    );
    if (ready) break;
    await pause(100);
  }
  if (role !== 'worker') letEverybodyMakeCourses(database);
  return {
    address: `http://127.0.0.1:${port}`,
    pid: child.pid,
    kill: async (signal) => {
      child.kill(signal);
      await ended;
    },
  };
}
