// The built program in processes of its own, on a PostgreSQL of its own, for the runs of `npm run prove`.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { appendFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
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

/** Starts the database again on a host, and says where it is then. */
export async function moveDatabase(database, host) {
  pullPlug(database);
  appendFileSync(join(database.data, 'pg_hba.conf'), 'host all all 10.0.0.0/8 scram-sha-256\n');
  const options = ['-D', database.data, '-p', String(database.port), '-c', 'listen_addresses=*'];
  const more = ['-c', 'unix_socket_directories=', '-c', 'max_connections=200'];
  const [program, args] = host.on('runuser', [
    ...['-u', 'postgres', '--', join(database.bin, 'postgres')],
    ...options,
    ...more,
  ]);
  spawn(program, args, { cwd: '/', stdio: 'ignore', detached: true }).unref();
  const url = new URL(database.url);
  url.hostname = host.address;
  database.url = url.href;
  for (let i = 0; i < 150; i++) {
    const client = new pg.Client({ connectionString: database.url });
    const isThere = await client.connect().then(
      () => client.end().then(() => true),
      () => false,
    );
    if (isThere) return;
    await pause(200);
  }
  throw new Error('the database did not start on its host within 30 seconds');
}

function letEverybodyMakeCourses({ url }) {
  run(process.execPath, [join(ROOT, 'server/dist/administer.js'), 'course-makers', 'anyone'], {
    env: { ...process.env, SIEVE_DATABASE_URL: url, SIEVE_SECRET: 'prove'.repeat(8) },
  });
}

/** Whether a process is ready, asked on its own host. */
function isReady(watch, host) {
  const address = `http://127.0.0.1:${watch}/ready`;
  if (!host)
    return fetch(address).then(
      (response) => response.ok,
      () => false,
    );
  const ask = `fetch('${address}').then((r) => process.exit(r.ok ? 0 : 1), () => process.exit(1))`;
  const [program, args] = host.on(process.execPath, ['-e', ask]);
  return spawnSync(program, args).status === 0;
}

/**
 * A process of one role, ready to work.
 *
 * @param host one of `makeHosts`; this machine itself where left out
 * @param url of the database as the host reaches it
 */
export async function startProcess(database, role, { host = null, url = database.url } = {}) {
  const [port, watch] = [await freePort(), await freePort()];
  const args = [join(ROOT, 'server/dist/main.js')];
  const [program, all] = host ? host.on(process.execPath, args) : [process.execPath, args];
  const child = spawn(program, all, {
    env: {
      ...process.env,
      SIEVE_DATABASE_URL: url,
      SIEVE_SECRET: 'prove'.repeat(8),
      SIEVE_ROLE: role,
      SIEVE_HOST: host ? host.address : '127.0.0.1',
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
    if (await isReady(watch, host)) break;
    await pause(100);
  }
  if (role !== 'worker') letEverybodyMakeCourses(database);
  return {
    address: `http://${host ? host.address : '127.0.0.1'}:${port}`,
    pid: child.pid,
    kill: async (signal) => {
      child.kill(signal);
      await ended;
    },
  };
}
